import { replay } from '../edit/history';
import { changedTrack } from './changed-track';
import { inkTrackOf, NO_PAGE, pageNameAt } from './ink-track';
import type { InkRecord } from './record';
import { runsOf } from './runs';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const stroke = (at: number, id: string, text = ''): InkRecord[] => [
  {
    ...{ at: s(at), do: 'begin', stroke: id, text },
    pen: { tool: text ? 'text' : 'pen', colour: 'red', width: 0.01, stays: 'wiped' },
  },
  { at: s(at), do: 'draw', stroke: id, samples: [[0, 0.1, 0.1, 0.5]] },
  { at: s(at + 0.2), do: 'end', stroke: id },
];
const track = inkTrackOf([
  { at: 0, do: 'page', page: 'page-one', paper: { ruling: 'plain', shade: 'dark' } },
  ...stroke(1, 'stroke-a'),
  ...stroke(1.5, 'stroke-slip'),
  { at: s(1.7), do: 'wipe', strokes: ['stroke-slip'] },
  ...stroke(2, 'stroke-b', 'Rise'),
  ...stroke(6, 'stroke-c'),
  { at: s(7), do: 'page', page: 'page-two', paper: { ruling: 'plain', shade: 'dark' } },
  ...stroke(7.2, 'stroke-d'),
]);

it('gathers what was written in one go, page by page, without slips', () => {
  expect(runsOf(track, 'page-one')).toEqual([
    { startUs: s(1), endUs: s(2.2), strokes: ['stroke-a', 'stroke-b'], gone: [], says: 'Rise' },
    { startUs: s(6), endUs: s(6.2), strokes: ['stroke-c'], gone: [], says: '' },
  ]);
  expect(runsOf(track, 'page-two').map(({ strokes }) => strokes)).toEqual([['stroke-d']]);
});

it('keeps what was taken away where it was, to be brought back', () => {
  const { decisions } = replay([
    {
      ...{ id: 'entry-one', by: 'teacher' },
      edit: {
        ...{ do: 'change-ink', takeId: 'take-one', strokes: ['stroke-b'] },
        change: { gone: true },
      },
    },
  ]);
  const [first] = runsOf(changedTrack(track, 'take-one', decisions)!, 'page-one');
  expect(first).toMatchObject({ strokes: ['stroke-a'], gone: ['stroke-b'] });
});

it('knows which page is shown', () => {
  expect([s(0), s(6.9), s(7)].map((us) => pageNameAt(track, us))).toEqual([
    'page-one',
    'page-one',
    'page-two',
  ]);
  expect(pageNameAt(inkTrackOf([]), 0)).toBe(NO_PAGE);
});
