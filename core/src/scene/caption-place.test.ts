import { filmOf } from '../film/film';
import { inkTrackOf } from '../ink/ink-track';
import type { Pen } from '../ink/pen';
import type { InkRecord } from '../ink/record';
import { DEFAULT_LAYOUT } from '../lesson/layout';
import { lessonOf, takeOfLength } from '../testing/lessons';
import type { Cue } from '../words/cue';
import { readScenes } from './scene';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(12), ['surface', 'camera', 'voice']);
const LONG = 'Two parts of twelve in the second hour, as I said';
const cue = (
  id: string,
  from: number,
  to: number,
  text = LONG,
): { language: string; cue: Cue } => ({
  language: 'en',
  cue: {
    ...{ id, takeId: take.id, startUs: s(from), endUs: s(to), text },
    ...{ words: null, timed: 'by-hand' as const, draft: false },
  },
});
const layout = (placeY: 0 | 1, kind: 'inset' | 'camera' = 'inset') => ({
  ...DEFAULT_LAYOUT,
  kind,
  inset: { ...DEFAULT_LAYOUT.inset, placeX: 1, placeY, size: 0.3 },
});
const scenesOf = (
  defaultLayout: ReturnType<typeof layout>,
  text?: string,
  records: readonly InkRecord[] = [],
) => {
  const ink = inkTrackOf(records);
  const lesson = lessonOf([take], {
    defaultLayout,
    captionLook: { burntIn: true, place: 'clear', size: 0.06, ground: 'band' },
    cues: [cue('cue-first', 2, 5, text), cue('cue-second', 6, 9, text)],
  });
  return readScenes(filmOf(lesson), () => (records.length > 0 ? ink : null));
};
/** Where the captions of some seconds stand. */
const places = (scenes: ReturnType<typeof scenesOf>, ...seconds: number[]) =>
  seconds.map((at) => {
    const layer = scenes.sceneAt(s(at))!.layers.find(({ kind }) => kind === 'caption');
    return layer?.kind === 'caption' ? layer.place : null;
  });

it('captions keep away from a face beside what is shown, where they would reach it', () => {
  expect(places(scenesOf(layout(1)), 1, 3, 7)).toEqual([null, 'top', 'top']);
  expect(places(scenesOf(layout(0)), 3, 7)).toEqual(['bottom', 'bottom']);
  expect(places(scenesOf(layout(1), 'Two parts'), 3, 7)).toEqual(['bottom', 'bottom']);
  // A face that is all there is to be seen has to bear them.
  expect(places(scenesOf(layout(1, 'camera')), 3)).toEqual(['bottom']);
});

it('captions keep away from what is written, for as long as they stand', () => {
  const pen: Pen = { tool: 'pen', colour: 'main', width: 0.004, stays: 'wiped' };
  const written = (atS: number): InkRecord[] => [
    { at: s(atS), do: 'begin', stroke: 'stroke-low', pen },
    {
      ...{ at: s(atS), do: 'draw', stroke: 'stroke-low' },
      samples: [
        [0, 0.4, 0.5, 0.5],
        [10_000, 0.6, 0.5, 0.5],
      ],
    },
    { at: s(atS) + 10_000, do: 'end', stroke: 'stroke-low' },
  ];
  expect(places(scenesOf(layout(0), 'Two parts', written(4)), 3, 7)).toEqual(['top', 'top']);
  expect(places(scenesOf(layout(0), 'Two parts', written(5.5)), 3, 7)).toEqual([
    ...['bottom', 'top'],
  ]);
  // Both ways something is covered: then less of it.
  expect(places(scenesOf(layout(0), LONG, written(1)), 3)).toEqual(['bottom']);
});
