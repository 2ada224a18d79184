import * as fc from 'fast-check';
import { filmOf } from '../film/film';
import { zoomedTo, PACES, type CloseUp } from '../lesson/close-up';
import { DEFAULT_LAYOUT } from '../lesson/layout';
import { LEAST_CROP, UNCROPPED, type Crop } from '../lesson/crop';
import type { Take } from '../lesson/take';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { inFrames } from '../time/frames';
import { blownUp } from './framed';
import type { Rect } from './geometry';
import { isPictureLayer } from './layers';
import { readScenes } from './scene';

const part: Crop = { x: 0.5, y: 0.5, width: 0.25, height: 0.25 };
const other: Crop = { x: 0, y: 0, width: 0.5, height: 0.5 };
const take = takeOfLength('take-one', 20_000_000);
const closeUp = (
  startUs: number,
  endUs: number,
  of: Crop = part,
  pace: CloseUp['pace'] = 'quick',
) => ({
  ...{ takeId: 'take-one', startUs, endUs },
  closeUp: { part: of, pace },
});
const read = (decisions: Parameters<typeof lessonOf>[1], takes: Take[] = [take]) =>
  readScenes(filmOf(lessonOf(takes, decisions)));
/** What of the surface is shown in a frame. */
const shown = ({ sceneOf }: ReturnType<typeof read>, frame: number): Rect =>
  sceneOf(frame)!.layers.filter(isPictureLayer)[0]!.from;
const quick = inFrames(PACES.quick);

const parts = fc
  .tuple(...[0, 1, 2, 3].map(() => fc.double({ min: 0, max: 1, noNaN: true })))
  .map(([x, y, w, h]): Crop => {
    const [width, height] = [LEAST_CROP + w! * 0.9, LEAST_CROP + h! * 0.9];
    return { x: x! * (1 - width), y: y! * (1 - height), width, height };
  });

it('shows the least with the part in it, in the shape of what is shown, and never beside it', () => {
  fc.assert(
    fc.property(parts, parts, (from, of) => {
      const shows = zoomedTo(from, of);
      expect(shows.width / shows.height).toBeCloseTo(from.width / from.height, 6);
      for (const [start, size] of [
        ['x', 'width'],
        ['y', 'height'],
      ] as const) {
        expect(shows[start]).toBeGreaterThanOrEqual(from[start] - 1e-9);
        expect(shows[start] + shows[size]).toBeLessThanOrEqual(from[start] + from[size] + 1e-9);
        const ends = of[start] + of[size];
        if (of[start] < from[start] || ends > from[start] + from[size]) continue;
        expect(shows[start]).toBeLessThanOrEqual(of[start] + 1e-9);
        expect(shows[start] + shows[size]).toBeGreaterThanOrEqual(ends - 1e-9);
      }
    }),
  );
  expect(zoomedTo(UNCROPPED, { x: 0.4, y: 0.45, width: 0.2, height: 0.1 })).toEqual({
    ...{ x: expect.closeTo(0.4), y: expect.closeTo(0.4), width: 0.2, height: 0.2 },
  });
  // Near an edge there is no room to have it in the middle.
  expect(zoomedTo(UNCROPPED, { x: 0.9, y: 0, width: 0.1, height: 0.05 }).x).toBeCloseTo(0.9);
});

it('goes in, stays, and comes out again, evenly', () => {
  const scenes = read({ closeUps: [closeUp(5_000_000, 10_000_000)] });
  expect(shown(scenes, 149)).toEqual(UNCROPPED);
  const going = Array.from({ length: quick }, (_, n) => shown(scenes, 150 + n).width);
  expect(going).toEqual([...going].sort((a, b) => b - a));
  expect(going.every((width) => width < 1 && width > 0.25)).toBe(true);
  // Halfway in time it is halfway in size, as it is seen: by half, and by half again.
  expect(Math.min(...going.map((width) => Math.abs(width - 0.5)))).toBeLessThan(0.06);
  expect(shown(scenes, 150 + quick)).toEqual({ x: 0.5, y: 0.5, width: 0.25, height: 0.25 });
  expect(shown(scenes, 299)).toEqual({ x: 0.5, y: 0.5, width: 0.25, height: 0.25 });
  expect(shown(scenes, 300).width).toBeGreaterThan(0.25);
  expect(shown(scenes, 300 + quick)).toEqual(UNCROPPED);
  expect(scenes.borders).toEqual([0, 150, 150 + quick, 300, 300 + quick]);
  expect([149, 150, 150 + quick, 299, 300].map((frame) => scenes.sceneOf(frame)!.still)).toEqual([
    ...[true, false, true, true, false],
  ]);
});

it('glides from one to the next, at the pace of the next, straight', () => {
  const scenes = read({
    closeUps: [closeUp(2_000_000, 6_000_000), closeUp(6_000_000, 9_000_000, other, 'middling')],
  });
  const middling = inFrames(PACES.middling);
  const way = Array.from({ length: middling }, (_, n) => shown(scenes, 180 + n));
  expect(way.every(({ width }) => width > 0.25 && width < 0.5)).toBe(true);
  expect(shown(scenes, 180 + middling)).toEqual(other);
  // One place of the surface lies in the same place of the frame in both, and all the way.
  const fixed = ({ x, width }: Rect) => (1 - x) / width;
  for (const at of way) expect(fixed(at)).toBeCloseTo(fixed(other));
});

it('is not put wrong by a cut, by another layout, or by a take that it isn’t of', () => {
  const closeUps = [closeUp(5_000_000, 10_000_000)];
  const cut = read({
    closeUps,
    cuts: [{ takeId: 'take-one', startUs: 4_000_000, endUs: 7_000_000 }],
  });
  // The cut goes into the close-up: the film comes closer where it goes on.
  expect(shown(cut, 119)).toEqual(UNCROPPED);
  expect(shown(cut, 120).width).toBeLessThan(1);
  expect(shown(cut, 120 + quick).width).toBe(0.25);
  expect(shown(cut, 210 + quick)).toEqual(UNCROPPED);

  const beside = read({
    ...{ closeUps, layoutTransitionUs: 500_000 },
    layouts: [
      {
        ...{ takeId: 'take-one', startUs: 7_000_000, endUs: 9_000_000 },
        layout: { kind: 'side', inset: { placeX: 0, placeY: 0, size: 0.3, shape: 'circle' } },
      },
    ],
  });
  for (const frame of [200, 212, 240, 275, 299]) expect(shown(beside, frame).width).toBe(0.25);

  const later = takeOfLength('take-two', 5_000_000);
  const two = read({ closeUps: [closeUp(15_000_000, 20_000_000)] }, [take, later]);
  expect(shown(two, 599).width).toBe(0.25);
  expect(shown(two, 600)).toEqual(UNCROPPED);
  expect(two.sceneOf(600)!.still).toBe(true);
});

it('comes closer to a part of what a crop shows, and to a face where there is nothing else', () => {
  const crop = { x: 0.5, y: 0, width: 0.5, height: 1 };
  const scenes = read({
    ...{ crops: [{ takeId: 'take-one', crop }], closeUps: [closeUp(0, 20_000_000)] },
  });
  const { x, y, width, height } = shown(scenes, 300);
  expect(width / height).toBeCloseTo(0.5);
  expect([x, y, width, height].map((one) => Number(one.toFixed(3)))).toEqual([
    ...[0.5, 0.375, 0.25, 0.5],
  ]);
  // Of a face that fills the frame three quarters of its height are seen.
  const face = { ...take, tracks: take.tracks.filter(({ kind }) => kind !== 'surface') };
  expect(shown(read({ closeUps: [closeUp(0, 20_000_000)] }, [face]), 300).width).toBeCloseTo(1 / 3);
});

it('knows how much a picture is blown up', () => {
  const lesson = lessonOf([take]);
  const times = (of: Take, kind: 'surface' | 'side', closer: Crop | null, widthPx = 1280) =>
    blownUp(
      lesson,
      of,
      {
        layout: { ...DEFAULT_LAYOUT, kind },
        closeUp: closer && { part: closer, pace: 'quick' },
      },
      widthPx,
    );
  expect(times(take, 'surface', null)).toBe(1);
  expect(times(take, 'surface', part)).toBe(4);
  expect(times(take, 'surface', part, 640)).toBe(2);
  expect(times(take, 'side', part)).toBeCloseTo(4 * 0.66);
  const board = { ...take, tracks: [{ ...take.tracks[0]!, kind: 'ink' as const }] };
  expect(times(board, 'surface', part)).toBeNull();
});
