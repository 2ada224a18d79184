import { filmOf } from '../film/film';
import { inkTrackOf } from '../ink/ink-track';
import { FIRST_LOOK, type PointerLook } from '../pointer/look';
import type { InkRecord } from '../ink/record';
import type { Take } from '../lesson/take';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { frameToUs } from '../time/frames';
import { framesShown } from './frames-text';
import type { PointerLayer } from './layers/pointer';
import { readScenes } from './scene';

const whole = takeOfLength('take-board', 20_000_000);
const take = {
  ...whole,
  source: 'board' as const,
  tracks: [
    ...whole.tracks.filter(({ kind }) => kind === 'voice'),
    {
      ...{ id: 'take-board-ink', kind: 'ink' as const, durationUs: 20_000_000, digest: '' },
      ...{ widthPx: 1920, heightPx: 1080 },
    },
  ],
};
const pen = { tool: 'pen', colour: 'main', width: 0.01, stays: 'wiped' } as const;
/** Written from the fifth second to the sixth. */
const written: InkRecord[] = [
  { at: 0, do: 'page', page: 'page-one', paper: { ruling: 'plain', shade: 'dark' } },
  { at: 5_000_000, do: 'begin', stroke: 'stroke-one', pen },
  ...Array.from({ length: 50 }, (_, n): InkRecord => ({
    ...{ at: 5_000_000 + n * 20_000, do: 'draw', stroke: 'stroke-one' },
    samples: [[0, 0.1 + n * 0.01, 0.3, 0.5]],
  })),
  { at: 6_000_000, do: 'end', stroke: 'stroke-one' },
];
const ink = inkTrackOf(written);
/** The same with a face beside it. */
const withFace = {
  ...take,
  tracks: [...take.tracks, ...whole.tracks.filter(({ kind }) => kind === 'camera')],
};
const read = (cuts: { takeId: string; startUs: number; endUs: number }[] = [], of: Take = take) =>
  readScenes(filmOf(lessonOf([of], { cuts })), (id) => (id === 'take-board' ? ink : null));
const shown = (from: number, to: number, scenes = read()) =>
  framesShown(Array.from({ length: to - from }, (_, n) => scenes.sceneOf(from + n)!));

it('is a layer that stands still while nobody writes, and moves while somebody does', () => {
  expect(
    read()
      .sceneOf(0)!
      .layers.map(({ kind }) => kind),
  ).toEqual(['ground', 'ink']);
  expect(shown(10, 140).still).toBe(true);
  expect(shown(150, 180).still).toBe(false);
  expect(shown(185, 500).still).toBe(true);
  // What stands later is not what stood before.
  expect(shown(10, 40).text).not.toBe(shown(200, 230).text);
});

it('has borders where a hand begins to write and where it stops, at their recorded times', () => {
  expect(read([], withFace).borders).toEqual([0, 150, 181]);
  // Two seconds cut out before it: what is written comes as much earlier, and is the same.
  const cut = { takeId: 'take-board', startUs: 1_000_000, endUs: 3_000_000 };
  const scenes = read([cut], withFace);
  expect(scenes.borders).toEqual([0, 30, 90, 121]);
  expect(shown(90, 120, scenes).text).toBe(shown(150, 180, read([], withFace)).text);
  expect(frameToUs(150) - frameToUs(90)).toBe(2_000_000);
});

it('has borders only where a page is turned, where nothing but writing is shown', () => {
  expect(read().borders).toEqual([0]);
  const turned = inkTrackOf([
    ...written,
    { at: 8_000_000, do: 'page', page: 'page-two', paper: { ruling: 'plain', shade: 'dark' } },
  ]);
  expect(readScenes(filmOf(lessonOf([take])), () => turned).borders).toEqual([0, 240]);
});

it('is left out while it isn’t there', () => {
  const scenes = readScenes(filmOf(lessonOf([take])));
  expect(scenes.sceneOf(0)!.layers.map(({ kind }) => kind)).toEqual(['ground']);
});

it('lies under the face beside what is shown, and over the face where there is nothing else', () => {
  const kinds = (of: Take) =>
    read([], of)
      .sceneOf(200)!
      .layers.map(({ kind }) => kind);
  expect(kinds(withFace)).toEqual(['ground', 'ink', 'picture', 'edge']);
  // Written on while it was recorded, or afterwards.
  const faceAlone: Take = { ...withFace, source: 'camera' };
  expect(kinds(faceAlone)).toEqual(['ground', 'picture', 'ink']);
  const tracks = faceAlone.tracks.filter(({ kind }) => kind !== 'ink');
  expect(kinds({ ...faceAlone, tracks })).toEqual(['ground', 'picture', 'ink']);
});

it('is no layer at all while there is nothing of it to be seen over what is captured', () => {
  const over = { ruling: 'none', shade: 'light' } as const;
  const later = inkTrackOf([
    { at: 0, do: 'page', page: 'page-one', paper: over },
    ...written.slice(1),
  ]);
  const scenes = readScenes(filmOf(lessonOf([withFace])), () => later);
  const has = (frame: number) => scenes.sceneOf(frame)!.layers.some(({ kind }) => kind === 'ink');
  expect([has(100), has(160), has(300)]).toEqual([false, true, true]);
});

describe('what is pointed at', () => {
  const samples = Array.from({ length: 30 }, (_, n): [number, number, number] => [
    n === 0 ? 0 : 20_000,
    0.2 + n * 0.01,
    0.1,
  ]);
  const pointed = inkTrackOf([
    { at: 0, do: 'page', page: 'page-one', paper: { ruling: 'plain', shade: 'light' } },
    { at: 1_000_000, do: 'point', samples },
    { at: 2_000_000, do: 'press', x: 0.5, y: 0.1 },
    { at: 2_200_000, do: 'release' },
  ]);
  const boardTake: Take = {
    ...takeOfLength('take-points', 10_000_000),
    source: 'board',
    tracks: [
      {
        ...{ id: 'take-points-ink', kind: 'ink', durationUs: 10_000_000 },
        ...{ widthPx: 1920, heightPx: 1080, digest: 'x' },
      },
    ],
  };
  const pointerAt = (us: number, look: Partial<PointerLook> = {}) => {
    const film = filmOf(lessonOf([boardTake], { pointer: { ...FIRST_LOOK, ...look } }));
    const layers = readScenes(film, () => pointed).sceneAt(us)!.layers;
    return layers.find((layer): layer is PointerLayer => layer.kind === 'pointer');
  };

  it('lies where it was, in the look that was decided, and goes when it is still', () => {
    expect(pointerAt(500_000)).toBeUndefined();
    expect(pointerAt(1_300_000)).toMatchObject({
      ...{ mark: 'halo', size: 0.07, opacity: 1, ring: null },
      ...{ x: expect.closeTo(0.3583, 3), y: expect.closeTo(0.1 * (16 / 9), 2) },
    });
    expect(pointerAt(1_300_000, { mark: 'spotlight', size: 0.3 })).toMatchObject({ size: 0.3 });
    expect(pointerAt(1_300_000, { mark: 'none' })).toBeUndefined();
    expect(pointerAt(2_100_000)?.ring?.part).toBeGreaterThan(0.1);
    expect(pointerAt(2_100_000, { rings: false })?.ring).toBeNull();
    expect(pointerAt(6_000_000)).toBeUndefined();
    expect(pointerAt(6_000_000, { goesAfterUs: 0 })?.opacity).toBe(1);
  });

  it('moves only what it lies in: the page stands, and pieces begin and end with it', () => {
    const film = filmOf(lessonOf([boardTake]));
    const { borders, sceneOf } = readScenes(film, () => pointed);
    expect(borders.filter((frame) => frame > 0 && frame < 40)).toHaveLength(1);
    const [one, other] = [sceneOf(35)!, sceneOf(40)!];
    const inkIn = ({ layers }: typeof one) => layers.find(({ kind }) => kind === 'ink');
    expect(inkIn(one)).toEqual(inkIn(other));
    expect(one.still).toBe(true);
  });
});
