import * as fc from 'fast-check';
import { filmOf } from '../film/film';
import { FIRST_CARD } from '../lesson/title-card';
import { lessonOf, takeOfLength } from '../testing/lessons';
import type { CrossFadeLayer } from './layers/cross-fade';
import { everyLayer, isPictureLayer, pictureSlots, type Layer } from './layers';
import { readScenes } from './scene';

const S = 1_000_000;
const take = takeOfLength('take-one', 20 * S);
const other = takeOfLength('take-two', 6 * S);
const cut = (fromS: number, toS: number) => ({
  ...{ takeId: take.id, startUs: fromS * S, endUs: toS * S },
});
const crossFadeIn = (layers: readonly Layer[] = []): CrossFadeLayer<Layer> | undefined =>
  layers.find((layer): layer is CrossFadeLayer<Layer> => layer.kind === 'cross-fade');
const picturesAt = (layers: readonly Layer[]) => layers.filter(isPictureLayer);

it('lets the last picture that was kept go over into the next, and takes as long as is wanted', () => {
  const film = filmOf(lessonOf([take], { cuts: [cut(4, 6)], crossFadeUs: 400_000 }));
  const scenes = readScenes(film);
  const at = (frame: number) => scenes.sceneOf(frame)!;
  expect(crossFadeIn(at(119).layers)).toBeUndefined();
  const over = Array.from({ length: 12 }, (_, index) => crossFadeIn(at(120 + index).layers)!);
  for (const crossFade of over) expect(crossFade.layers).toEqual(at(119).layers);
  const strengths = over.map(({ opacity }) => opacity);
  expect(strengths).toEqual([...strengths].sort((a, b) => b - a));
  expect(strengths[0]).toBeGreaterThan(0.95);
  expect(strengths[11]).toBeLessThan(0.05);
  expect(crossFadeIn(at(132).layers)).toBeUndefined();
  expect(scenes.borders).toEqual(expect.arrayContaining([120, 132]));
  // Both pictures of a track are asked for, each by a name of its own.
  const slots = pictureSlots(at(121).layers);
  expect(new Set(slots.map(([slot]) => slot)).size).toBe(slots.length);
  expect(slots.length).toBe(2 * picturesAt(at(121).layers).length);
});

it('is not where nothing was left out, nor at cards, and what lies over all stays', () => {
  const lines = [{ ...cut(3, 9), line: { text: 'ebb', place: 'top' as const } }];
  const speeds = [{ ...cut(8, 9), speed: 200 }];
  const cards = { opening: FIRST_CARD, closing: FIRST_CARD };
  const decisions = { cuts: [cut(4, 6)], crossFadeUs: 300_000, lines, speeds, cards };
  const film = filmOf(lessonOf([take, other], decisions));
  const scenes = readScenes(film);
  const over = Array.from({ length: film.frames }, (_, frame) =>
    crossFadeIn(scenes.sceneOf(frame)!.layers),
  );
  const begins = over.flatMap((one, frame) => (one && !over[frame - 1] ? [frame] : []));
  // Where something was cut, and where the other take comes.
  const joins = film.spans.flatMap(({ filmFrame, startFrame, take: of }) =>
    (of === take && startFrame === 180) || of === other ? [filmFrame] : [],
  );
  expect(begins).toEqual(joins);
  expect(over.every((one) => !one?.layers.some(({ kind }) => kind === 'text-overlay'))).toBe(true);
});

it('shows nothing that was cut, whatever was', () => {
  const cuts = fc
    .array(fc.integer({ min: 1, max: 190 }), { minLength: 2, maxLength: 14 })
    .map((tenths) => [...new Set(tenths)].sort((a, b) => a - b))
    .map((at) =>
      at.flatMap((from, index) =>
        index % 2 === 0 && at[index + 1] ? [cut(from / 10, at[index + 1]! / 10)] : [],
      ),
    );
  fc.assert(
    fc.property(cuts, fc.constantFrom(100_000, 600_000), (list, crossFadeUs) => {
      const film = filmOf(lessonOf([take], { cuts: list, crossFadeUs }));
      const scenes = readScenes(film);
      for (let frame = 0; frame < film.frames; frame++) {
        for (const layer of everyLayer(scenes.sceneOf(frame)!.layers)) {
          if (!isPictureLayer(layer)) continue;
          const middleUs = layer.takeUs + 16_000;
          expect(list.some(({ startUs, endUs }) => middleUs > startUs && middleUs < endUs)).toBe(
            false,
          );
        }
      }
    }),
    { numRuns: 60 },
  );
});
