import { editSchema } from '../edit/edit';
import type { Pen } from './pen';
import type { InkRecord } from './record';
import { editsOf, type Appearing } from './written-after';

const pen: Pen = { tool: 'pen', colour: 'red', width: 0.01, stays: 'wiped' };
const drawn = (id: string, tool: Pen['tool'] = 'pen'): InkRecord[] => [
  { at: 1_000, do: 'begin', stroke: id, pen: { ...pen, tool } },
  { at: 1_000, do: 'draw', stroke: id, samples: [[0, 0.1, 0.1, 0.5]] },
  {
    ...{ at: 2_000, do: 'draw', stroke: id },
    samples: [
      [0, 0.2, 0.1, 0.5],
      [1_000, 0.3, 0.1, 0.5],
    ],
  },
  { at: 3_000, do: 'end', stroke: id },
];
const LAID = new Set(['stroke-laid', 'stroke-other']);
const edits = (
  records: readonly InkRecord[],
  appearing: Appearing = 'at-once',
  changes: Parameters<typeof editsOf>[2] = [],
) => {
  const made = editsOf(records, LAID, changes, {
    ...{ takeId: 'take-one', page: 'page-one', appearing },
    takeUs: (at) => at + 5_000_000,
  });
  made.forEach((edit) => editSchema.parse(edit));
  return made;
};
const laters = (appearing: Appearing, tool?: Pen['tool']) => {
  const [edit] = edits(drawn('stroke-new', tool), appearing);
  return edit?.do === 'add-ink' ? edit.stroke.samples.map(([later]) => later) : null;
};

it('adds what was drawn, at its recorded time, as it is to appear', () => {
  const [edit] = edits(drawn('stroke-new'));
  expect(edit).toMatchObject({
    ...{ do: 'add-ink', takeId: 'take-one' },
    stroke: { id: 'stroke-new', page: 'page-one', pen, text: '', atUs: 5_001_000 },
  });
  expect(laters('at-once')).toEqual([0, 0, 0]);
  expect(laters('as-drawn')).toEqual([0, 1_000, 1_000]);
  expect(laters(4_000)).toEqual([0, 2_000, 2_000]);
  expect(laters('at-once', 'box')).toEqual([0, 0]);
  expect(laters('as-drawn', 'box')).toEqual([0, 1_000, 1_000]);
});

it('leaves out what was drawn and wiped again, as what was straightened', () => {
  const records: InkRecord[] = [
    ...drawn('stroke-by-hand'),
    { at: 3_000, do: 'wipe', strokes: ['stroke-by-hand'] },
    ...drawn('stroke-straight', 'line'),
  ];
  expect(edits(records).map((edit) => edit.do === 'add-ink' && edit.stroke.id)).toEqual([
    'stroke-straight',
  ]);
});

it('takes away what was wiped of what was there, and nothing that was not', () => {
  const wiped = edits([{ at: 0, do: 'wipe', strokes: ['stroke-laid', 'stroke-elsewhere'] }]);
  expect(wiped).toEqual([
    { do: 'change-ink', takeId: 'take-one', strokes: ['stroke-laid'], change: { gone: true } },
  ]);
});

it('moves by all that the hand went, on top of what was moved before', () => {
  const shift = (x: number, y: number): InkRecord => ({
    ...{ at: 0, do: 'shift', x, y, strokes: ['stroke-laid', 'stroke-other'] },
  });
  const moves = edits([shift(0.1, 0), shift(0.02, 0.03)], 'at-once', [
    { takeId: 'take-one', strokeId: 'stroke-other', change: { x: 0.5, y: 0 } },
  ]);
  expect(moves).toEqual([
    {
      ...{ do: 'change-ink', takeId: 'take-one', strokes: ['stroke-laid'] },
      change: { x: 0.12, y: 0.03 },
    },
    {
      ...{ do: 'change-ink', takeId: 'take-one', strokes: ['stroke-other'] },
      change: { x: 0.62, y: 0.03 },
    },
  ]);
  expect(edits([shift(0.1, 0), shift(-0.1, 0)])).toEqual([]);
});
