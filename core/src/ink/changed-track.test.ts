import { replay } from '../edit/history';
import { entriesOf } from '../edit/entry';
import type { Edit } from '../edit/edit';
import type { InkChange } from './change';
import { changedTrack, changesShown } from './changed-track';
import { inkTrackOf, pageAt, unchangedSince } from './ink-track';
import type { Pen } from './pen';
import type { InkRecord } from './record';

const TAKE = 'take-board';
const pen: Pen = { tool: 'pen', colour: 'main', width: 0.004, stays: 'wiped' };
const paper = { ruling: 'plain', shade: 'light' } as const;
const s = (seconds: number) => seconds * 1_000_000;
/** Drawn from left to right within a tenth of a second. */
const stroke = (at: number, id: string, stays: Pen['stays'] = 'wiped'): InkRecord[] => [
  { at, do: 'begin', stroke: id, pen: { ...pen, stays } },
  {
    ...{ at, do: 'draw', stroke: id },
    samples: [
      [0, 0.1, 0.2, 0.5],
      [100_000, 0.3, 0.2, 0.5],
    ],
  },
  { at: at + 100_000, do: 'end', stroke: id },
];
const RECORDED = inkTrackOf([
  { at: 0, do: 'page', page: 'page-one', paper },
  ...stroke(s(1), 'stroke-a'),
  ...stroke(s(2), 'stroke-fades', s(1)),
  { at: s(4), do: 'wipe', strokes: ['stroke-a'] },
  { at: s(5), do: 'page', page: 'page-two', paper },
  ...stroke(s(6), 'stroke-b'),
  { at: s(8), do: 'page', page: 'page-one', paper },
]);

const after = (...edits: Edit[]) => {
  let count = 0;
  const entries = edits.flatMap((edit) => entriesOf([edit], () => `entry-${++count}`));
  return changedTrack(RECORDED, TAKE, replay(entries).decisions)!;
};
const change = (id: string, how: InkChange): Edit => ({
  ...{ do: 'change-ink', takeId: TAKE, strokes: [id], change: how },
});
const seen = (track: ReturnType<typeof after>, us: number) =>
  pageAt(track, us).strokes.map((shown) => shown.stroke.id);
const one = (track: ReturnType<typeof after>, us: number) => pageAt(track, us).strokes[0]!;

describe('what is changed about a stroke afterwards', () => {
  it('leaves a track that nothing was changed about the very same', () => {
    expect(after()).toBe(RECORDED);
    expect(changedTrack(null, TAKE, replay([]).decisions)).toBeNull();
  });
  it('recolours and widens it', () => {
    const track = after(
      change('stroke-a', { colour: 'red' }),
      change('stroke-a', { width: 0.01 }),
      change('stroke-a', { colour: 'blue' }),
    );
    expect(one(track, s(2)).stroke.pen).toEqual({ ...pen, colour: 'blue', width: 0.01 });
  });
  it('moves it in place, against where it was recorded however often', () => {
    const track = after(
      change('stroke-a', { x: 0.3, y: 0 }),
      change('stroke-a', { x: 0.2, y: -0.1 }),
    );
    expect(one(track, s(2)).points[0]).toMatchObject({ atUs: s(1), pressure: 0.5 });
    expect(one(track, s(2)).points[0]!.x).toBeCloseTo(0.3);
    expect(one(track, s(2)).points[0]!.y).toBeCloseTo(0.1);
  });
  it('moves it in time: it is drawn then, and wiped when all are', () => {
    const track = after(change('stroke-a', { laterUs: s(1.5) }));
    expect(seen(track, s(2))).toEqual(['stroke-fades']);
    const drawn = pageAt(track, s(2.5)).strokes.find((shown) => shown.stroke.id === 'stroke-a');
    expect(drawn?.points).toHaveLength(1);
    expect(seen(track, s(2.6))).toContain('stroke-a');
    expect(seen(track, s(4))).toEqual([]);
    // Later than it was wiped: then it wasn't meant.
    expect(seen(after(change('stroke-a', { laterUs: s(3.5) })), s(4.9))).toEqual(['stroke-a']);
    // Never before the take begins.
    expect(seen(after(change('stroke-a', { laterUs: s(-9) })), 0)).toEqual(['stroke-a']);
  });
  it('lets it stay longer: until a time, or for good', () => {
    expect(seen(after(change('stroke-a', { untilUs: s(4.5) })), s(4.2))).toEqual(['stroke-a']);
    expect(seen(after(change('stroke-a', { untilUs: s(4.5) })), s(4.5))).toEqual([]);
    expect(seen(after(change('stroke-a', { untilUs: null })), s(9))).toEqual(['stroke-a']);
    expect(seen(after(change('stroke-fades', { stays: 'film' })), s(7))).toEqual([
      'stroke-fades',
      'stroke-b',
    ]);
  });
  it('takes it away, and brings it back', () => {
    expect(seen(after(change('stroke-a', { gone: true })), s(1.5))).toEqual([]);
    const back = after(change('stroke-a', { gone: true }), change('stroke-a', { gone: false }));
    expect(seen(back, s(1.5))).toEqual(['stroke-a']);
  });
  it('says since when it looks as it does, with what was changed', () => {
    const track = after(change('stroke-a', { laterUs: s(0.5) }));
    expect(unchangedSince(RECORDED, s(1.05))).toBe(s(1));
    expect(unchangedSince(track, s(1.05))).toBe(0);
    expect(unchangedSince(track, s(1.55))).toBe(s(1.5));
  });
});

describe('what is written on a take afterwards', () => {
  const added = (atUs: number, page: string | null = 'page-one'): Edit => ({
    ...{ do: 'add-ink', takeId: TAKE },
    stroke: {
      ...{ id: 'stroke-new', page, text: '', atUs },
      pen: { ...pen, tool: 'box' },
      samples: [
        [0, 0.1, 0.1, 0.5],
        [s(0.5), 0.2, 0.2, 0.5],
        [s(0.5), 0.4, 0.4, 0.5],
      ],
    },
  });
  it('is drawn from its time on, on its page, and lies where it would had it been recorded', () => {
    const track = after(added(s(1.5)));
    expect(seen(track, s(1.4))).toEqual(['stroke-a']);
    expect(seen(track, s(2.2))).toEqual(['stroke-a', 'stroke-new', 'stroke-fades']);
    const drawing = pageAt(track, s(2)).strokes[1]!;
    expect([drawing.done, drawing.points.length]).toEqual([false, 2]);
    const done = pageAt(track, s(2.5)).strokes[1]!;
    expect([done.done, done.points.map(({ x }) => x)]).toEqual([true, [0.1, 0.4]]);
    expect(seen(track, s(6.5))).toEqual(['stroke-b']);
    expect(seen(track, s(9))).toEqual(['stroke-new']);
  });
  it('can be changed as what was recorded', () => {
    const track = after(added(s(1.5)), change('stroke-new', { untilUs: s(3) }));
    expect(seen(track, s(3))).not.toContain('stroke-new');
  });
  it('lies over footage that nothing was written on', () => {
    const { decisions } = replay([
      { id: 'entry-one', by: 'teacher', edit: added(s(1), null) as never },
    ]);
    const track = changedTrack(null, TAKE, decisions)!;
    expect(seen(track, s(2.2))).toEqual(['stroke-new']);
    expect(pageAt(track, s(2.2)).paper.ruling).toBe('none');
    expect(changedTrack(null, 'take-other', decisions)).toBeNull();
  });
});

it('names what was changed only where it can be seen', () => {
  const shown = (track: ReturnType<typeof after>, ...looks: number[]) => changesShown(track, looks);
  const red = after(change('stroke-a', { colour: 'red' }));
  expect(shown(red, 0, s(0.5))).toEqual([]);
  expect(shown(red, s(1))).toHaveLength(1);
  expect(shown(red, s(6), s(7))).toEqual([]);
  expect(shown(red, s(9))).toHaveLength(1);
  expect(shown(red, s(1))).not.toEqual(shown(after(change('stroke-a', { colour: 'blue' })), s(1)));
  // Taken away, it is missing where it was: that is a change as well.
  expect(shown(after(change('stroke-a', { gone: true })), s(1))).toHaveLength(1);
  // Shown on every page.
  const everywhere = after(change('stroke-a', { stays: 'film', untilUs: null }));
  expect(shown(everywhere, s(6))).toHaveLength(1);
});
