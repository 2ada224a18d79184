import type { Act } from '../edit/edit';
import { filmOf } from '../film/film';
import type { InkOf } from '../ink/changed-track';
import { inkTrackOf } from '../ink/ink-track';
import type { Pen } from '../ink/pen';
import type { InkRecord } from '../ink/record';
import { DEFAULT_LAYOUT } from '../lesson/layout';
import { LEVEL_STEP_US } from '../sound/level-line';
import { lessonOf, takeOfLength } from '../testing/lessons';
import type { Decisions } from '../edit/decisions';
import { deadAirCheck } from './dead-air';
import { faceCheck } from './face';
import { namesNoGoal, titleCheck } from './title';
import { tooLoudCheck } from './too-loud';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const SECONDS = 40;
const take = takeOfLength('take-one', s(SECONDS));
const none: InkOf = () => null;

/** A line of levels in which somebody speaks between some times, s; the rest is a quiet room. */
const line = (...spoken: (readonly [from: number, to: number, dbfs?: number])[]) => {
  const levels = new Uint8Array((SECONDS * 1e6) / LEVEL_STEP_US).fill(30);
  for (const [from, to, dbfs = -20] of spoken) {
    // Words, with the little pauses between them.
    for (let step = from * 50; step < to * 50; step++)
      levels[step] = step % 12 < 9 ? 100 + dbfs : 45;
  }
  return new Map([['take-one', levels]]);
};
const filmWith = (decisions: Partial<Decisions> = {}, of = take) =>
  filmOf(lessonOf([of], decisions));
const actsOf = (mend: unknown) => (mend as { acts: Act[] }).acts;

describe('dead air', () => {
  const look = (
    spoken: (readonly [number, number])[],
    decisions: Partial<Decisions> = {},
    inkOf = none,
  ) => deadAirCheck(filmWith(decisions), line(...spoken), inkOf)[0];

  it('is none where somebody speaks from the first second to the last, with pauses', () => {
    expect(
      look([
        [0.4, 18],
        [20.5, 39],
      ]),
    ).toBeUndefined();
  });
  it('is found before the first word and cut down to a breath', () => {
    const found = look([[4, 39]])!;
    expect(found.sentence).toBe('It begins with 4 s in which nothing is said.');
    expect(found.atUs).toBe(0);
    const [cut] = actsOf(found.mend) as { startUs: number; endUs: number }[];
    expect([cut!.startUs, cut!.endUs / 1e6]).toEqual([0, expect.closeTo(3.65, 0)]);
  });
  it('is found after the last word, and inside; each is cut', () => {
    expect(look([[0.2, 30]])!.sentence).toBe('It ends with 10 s in which nothing is said.');
    const inside = look([
      [0.2, 10],
      [16, 39],
    ])!;
    expect(inside.sentence).toBe('Nothing is said for 6 s at 0:10.');
    expect(inside.atUs! / 1e6).toBeCloseTo(10, 0);
    const both = look([
      [0.2, 10],
      [16, 30],
    ])!;
    expect(both.sentence).toMatch(/^Nothing is said in 2 places, first for 6 s/);
    expect(actsOf(both.mend)).toHaveLength(2);
  });
  it('is gone once it is cut', () => {
    const found = look([
      [0.2, 10],
      [16, 39],
    ])!;
    const cuts = actsOf(found.mend).map((act) => {
      const { takeId, startUs, endUs } = act as { takeId: string; startUs: number; endUs: number };
      return { takeId, startUs, endUs };
    });
    expect(
      look(
        [
          [0.2, 10],
          [16, 39],
        ],
        { cuts },
      ),
    ).toBeUndefined();
  });
  it('is none where it was muted, where something is written, nor in a lesson of a screen alone', () => {
    const muted = [{ takeId: 'take-one', startUs: s(9), endUs: s(17) }];
    expect(
      look(
        [
          [0.2, 10],
          [16, 39],
        ],
        { muted } as Partial<Decisions>,
      ),
    ).toBeUndefined();
    const mute = takeOfLength('take-one', s(SECONDS), ['surface']);
    expect(deadAirCheck(filmWith({}, mute), line(), none)).toEqual([]);
    expect(deadAirCheck(filmWith({}), new Map(), none)).toEqual([]);
  });
});

describe('a title', () => {
  it.each([
    '2026-11-27',
    'Recording 14',
    'untitled',
    'New lesson (3)',
    'Week 4',
    '27 Nov 2026 final.mp4',
    'Lesson',
  ])('that names no goal: %s', (title) => {
    expect(namesNoGoal(title)).toBe(true);
    expect(titleCheck(title)).toMatchObject({ verdict: 'look', mend: { step: 'plan' } });
  });
  it.each([
    'The rule of twelfths',
    'Week four: welcome',
    'Reading a tide table',
    'Lesson 3: tides',
    'Gezeiten',
    '潮汐',
  ])('that does: %s', (title) => expect(titleCheck(title).verdict).toBe('good'));
});

it('a microphone that was too loud is told, with the place; one knock isn’t, nor what was cut', () => {
  const loud = line([1, 20], [22, 24, -3]);
  const [found] = tooLoudCheck(filmWith(), loud);
  expect(found).toMatchObject({ verdict: 'look', mend: { step: 'tidy' } });
  expect(found!.atUs! / 1e6).toBeCloseTo(22, 1);
  expect(tooLoudCheck(filmWith(), line([1, 39]))).toEqual([]);
  expect(tooLoudCheck(filmWith(), line([1, 20], [22, 22.06, -1]))).toEqual([]);
  const cuts = [{ takeId: 'take-one', startUs: s(21), endUs: s(25) }];
  expect(tooLoudCheck(filmWith({ cuts }), loud)).toEqual([]);
});

describe('a face over what is written', () => {
  const pen: Pen = { tool: 'pen', colour: 'main', width: 0.004, stays: 'wiped' };
  /** A line across a part of the picture, from 10 s on until it is wiped at 20 s. */
  const written = (x: number, y: number): InkOf => {
    const ink = inkTrackOf(lineAcross(x, y, 0.2));
    return () => ink;
  };
  const lineAcross = (x: number, y: number, across: number, stroke = 'stroke-one'): InkRecord[] => [
    { at: s(10), do: 'begin', stroke, pen },
    {
      ...{ at: s(10), do: 'draw', stroke },
      samples: [
        [0, x, y, 0.5],
        [10_000, x + across, y + 0.05, 0.5],
      ],
    },
    { at: s(10) + 10_000, do: 'end', stroke },
    { at: s(20), do: 'wipe', strokes: [stroke] },
  ];
  const inset = (placeX: 0 | 1, placeY: 0 | 1) => ({
    ...DEFAULT_LAYOUT,
    kind: 'inset' as const,
    inset: { ...DEFAULT_LAYOUT.inset, placeX, placeY, size: 0.3 },
  });
  const film = (decisions: Partial<Decisions> = {}) =>
    filmWith({ defaultLayout: inset(1, 1), ...decisions });

  it('is none where they are apart, or nothing is written', () => {
    expect(faceCheck(film(), written(0.1, 0.05))).toEqual([]);
    expect(faceCheck(film(), none)).toEqual([]);
    const alone = { defaultLayout: { ...inset(1, 1), kind: 'camera' as const } };
    expect(faceCheck(film(alone), written(0.75, 0.45))).toEqual([]);
  });
  it('is told with its place, and goes to another corner for as long as it is in the way', () => {
    const [found] = faceCheck(film(), written(0.75, 0.45));
    expect(found!.sentence).toBe('The face covers what is written, first at 0:10.');
    const [moved, ...more] = actsOf(found!.mend);
    expect(more).toEqual([]);
    expect(moved).toMatchObject({ do: 'set-layout', takeId: 'take-one' });
    const { startUs, endUs, layout } = moved as Extract<Act, { do: 'set-layout' }>;
    expect([startUs / 1e6, endUs / 1e6]).toEqual([expect.closeTo(9.5, 0), expect.closeTo(20.5, 0)]);
    expect([layout.inset.placeX, layout.inset.placeY]).not.toEqual([1, 1]);
    const layouts = [{ takeId: 'take-one', startUs, endUs, layout }];
    expect(faceCheck(film({ layouts }), written(0.75, 0.45))).toEqual([]);
  });
  it('is hidden where every corner is written on, so that nothing is left to be told', () => {
    const lines = [
      ...lineAcross(0, 0.02, 1, 'stroke-top'),
      ...lineAcross(0, 0.48, 1, 'stroke-foot'),
    ];
    const all = inkTrackOf(lines.sort((a, b) => a.at - b.at));
    const [found] = faceCheck(film(), () => all);
    const acts = actsOf(found!.mend);
    const layouts = acts.map((act) => act as Extract<Act, { do: 'set-layout' }>);
    expect(layouts.map(({ layout }) => layout.kind)).toEqual(['surface']);
    expect(found!.mend).toMatchObject({ words: 'Hide it there' });
    expect(faceCheck(film({ layouts }), () => all)).toEqual([]);
  });
});
