import { filmOf } from '@under-chalk/core/film/film';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { readScenes } from '@under-chalk/core/scene/scene';
import { keyText, planChunks, type Chunk } from './chunks';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(120));
const cut = (start: number, end: number) => ({
  takeId: take.id,
  startUs: s(start),
  endUs: s(end),
});
const plan = (decisions: Partial<Decisions> = {}) => [
  ...planChunks(readScenes(filmOf(lessonOf([take], decisions)))),
];
const endOf = (chunk: Chunk) => recordedOf(chunk) + chunk.frames;
const recordedOf = ({ span, filmFrame }: Chunk) => span.startFrame + filmFrame - span.filmFrame;
const keys = (decisions: Partial<Decisions> = {}) =>
  plan(decisions).map((chunk) => keyText(chunk, { widthPx: 1280, heightPx: 720 }, ['x264']));
const layouts = [
  {
    ...cut(40, 60),
    layout: { ...DEFAULT_LAYOUT, kind: 'camera' as const },
  },
];

it('follows on without gaps, in film and in recorded time', () => {
  const chunks = plan({ cuts: [cut(10, 13.3), cut(50, 70)], layouts });
  let filmFrame = 0;
  for (const chunk of chunks) {
    expect(chunk.filmFrame).toBe(filmFrame);
    expect(chunk.frames).toBeGreaterThan(0);
    filmFrame += chunk.frames;
  }
  expect(filmFrame).toBe((120 - 3.3 - 20) * 30);
});

it('renders only what one more cut in the middle touches', () => {
  const before = new Set(keys({ cuts: [cut(10, 13)], layouts }));
  const after = keys({ cuts: [cut(10, 13), cut(81, 84)], layouts });
  expect(after.filter((key) => !before.has(key))).toHaveLength(2);
});

it('renders only what a moved inset touches', () => {
  const base = keys({ layouts });
  const moved = keys({
    layouts: [
      ...layouts,
      {
        ...cut(100, 110),
        layout: {
          kind: 'inset',
          inset: { ...DEFAULT_LAYOUT.inset, placeX: 0 },
        },
      },
    ],
  });
  const fresh = moved.filter((key) => !base.includes(key));
  // Its ten seconds, two soft changes, the rest of the two stretches up to the next border of the grid.
  expect(fresh.length).toBeLessThanOrEqual(9);
});

it('takes the painter only where something moves', () => {
  const chunks = plan({ layouts });
  expect(
    chunks.filter((chunk) => chunk.renderPath === 'painter').map((x) => [recordedOf(x), endOf(x)]),
  ).toEqual([
    [1200, 1215],
    [1800, 1815],
  ]);
  expect(
    plan({ layouts, layoutTransitionUs: 0 }).every((chunk) => chunk.renderPath === 'filters'),
  ).toBe(true);
});

it('reads only the tracks that are seen', () => {
  const [only] = plan({ defaultLayout: { ...DEFAULT_LAYOUT, kind: 'surface' } });
  expect(only!.tracks.map(({ id }) => id)).toEqual(['take-one-surface']);
});

it('has no chunk so short that it costs more to start than to render', () => {
  const lengths = plan({ cuts: [cut(4.9, 5.1), cut(9.95, 10.4)] }).map(({ frames }) => frames);
  expect(Math.min(...lengths)).toBeGreaterThanOrEqual(16);
  expect(Math.max(...lengths)).toBeLessThanOrEqual(80 + 16);
});

it('does not depend on the title where there are pictures, and does where there are none', () => {
  const titled = (kinds: ('surface' | 'voice')[], title: string) => {
    const lesson = lessonOf([takeOfLength('take-two', s(5), kinds)]);
    const { plan: planned } = lesson.decisions;
    const film = filmOf({
      ...lesson,
      decisions: { ...lesson.decisions, plan: { ...planned, title } },
    });
    return [...planChunks(readScenes(film))][0]!.shows;
  };
  expect(titled(['surface'], 'a')).toBe(titled(['surface'], 'b'));
  expect(titled(['voice'], 'a')).not.toBe(titled(['voice'], 'b'));
});
