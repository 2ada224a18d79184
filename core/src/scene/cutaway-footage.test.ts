import * as fc from 'fast-check';
import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { frameToUs } from '../time/frames';
import { isPictureLayer } from './layers';
import type { PictureLayer } from './layers/picture';
import { readScenes } from './scene';

const S = 1_000_000;
const take = takeOfLength('take-heard', 20 * S);
const other = takeOfLength('take-shown', 8 * S, ['surface', 'voice']);
const cut = (fromS: number, toS: number, of = take) => ({
  ...{ takeId: of.id, startUs: fromS * S, endUs: toS * S },
});
const footage = (fromS: number, sinceS: number) => ({
  ...{ takeId: other.id, fromUs: fromS * S, sinceUs: sinceS * S },
});
/** Only the one that is heard stands in the film. */
const film = (decisions: Parameters<typeof lessonOf>[1]) =>
  filmOf(lessonOf([take, other], { ...decisions, excluded: [other.id] }));
const shownIn = (of: ReturnType<typeof film>) => {
  const scenes = readScenes(of);
  return Array.from({ length: of.frames }, (_, frame): PictureLayer | undefined =>
    scenes.sceneOf(frame)!.layers.find(isPictureLayer),
  );
};
const framesOf = (pictures: readonly (PictureLayer | undefined)[]) =>
  pictures.flatMap((layer, frame) => (layer?.trackId === 'take-shown-surface' ? [frame] : []));

it('goes on beside what is heard, from where it was said to begin', () => {
  const pictures = shownIn(film({ cutaways: [{ ...cut(5, 9), of: footage(2, 5) }] }));
  expect(framesOf(pictures)).toEqual(Array.from({ length: 120 }, (_, index) => 150 + index));
  expect(pictures[150]!.takeUs).toBe(2 * S);
  expect(pictures[269]!.takeUs).toBe(frameToUs(60 + 119));
});

it('goes on without a jump where something is cut out of what is heard, and as fast as it was recorded', () => {
  const pictures = shownIn(
    film({
      cutaways: [{ ...cut(5, 9), of: footage(0, 5) }],
      cuts: [cut(6, 7)],
      speeds: [{ ...cut(7, 9), speed: 200 }],
    }),
  );
  const times = framesOf(pictures).map((frame) => pictures[frame]!.takeUs);
  expect(times).toEqual(Array.from({ length: 60 }, (_, index) => frameToUs(index)));
});

it('is over when it ends: what was recorded is seen again', () => {
  const pictures = shownIn(film({ cutaways: [{ ...cut(5, 15), of: footage(6, 5) }] }));
  expect(framesOf(pictures)).toHaveLength(60);
  expect(pictures[210]!.trackId).toBe('take-heard-surface');
});

it('begins where it is first seen, where what is heard begins later', () => {
  const of = film({
    cutaways: [{ ...cut(0, 20), of: footage(1, 0) }],
    trims: [{ placementId: take.id, startUs: 4 * S, endUs: null }],
  });
  expect(shownIn(of)[0]!.takeUs).toBe(S);
});

it('shows nothing that was cut out of it, and has a border where it jumps', () => {
  const tenths = fc.integer({ min: 1, max: 79 });
  fc.assert(
    fc.property(tenths, tenths, fc.integer({ min: 0, max: 40 }), (a, b, from) => {
      const gone = cut(Math.min(a, b) / 10, Math.max(a, b) / 10, other);
      const of = film({ cutaways: [{ ...cut(2, 14), of: footage(from / 10, 2) }], cuts: [gone] });
      const scenes = readScenes(of);
      const pictures = shownIn(of);
      for (const frame of framesOf(pictures)) {
        const { takeUs } = pictures[frame]!;
        const middleUs = takeUs + 16_000;
        expect(middleUs > gone.startUs && middleUs < gone.endUs).toBe(false);
        const before = pictures[frame - 1];
        const goesOn =
          before?.trackId === pictures[frame]!.trackId && takeUs - before.takeUs < 40_000;
        if (!goesOn) expect(scenes.borders).toContain(frame);
      }
    }),
    { numRuns: 60 },
  );
});
