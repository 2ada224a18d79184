import * as fc from 'fast-check';
import { filmOf } from '../film/film';
import { recordedIn } from '../film/span';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { lay } from '../time/timeline';
import { FADE_US, heardOf } from './heard';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(20));
const stretch = (from: number, to: number) => ({
  ...{ takeId: take.id, startUs: s(from), endUs: s(to) },
});
const film = (decisions: Parameters<typeof lessonOf>[1]) => filmOf(lessonOf([take], decisions));
const framesOf = (of: ReturnType<typeof film>) =>
  heardOf(of).map(({ filmFrame, frames, step }) => [filmFrame, filmFrame + frames, step]);

it('is heard on either side of what is muted, faded there, and lies where it lay', () => {
  const heard = heardOf(film({ muted: [stretch(4, 6)] }));
  expect(heard.map(({ filmFrame, frames, step }) => [filmFrame, frames, step])).toEqual([
    [0, 120, 0],
    [180, 420, 180],
  ]);
  expect(heard.map(({ fadeInUs, fadeOutUs }) => [fadeInUs, fadeOutUs])).toEqual([
    [0, FADE_US],
    [FADE_US, 0],
  ]);
});

it('is silent from the beginning, to the end, and over a cut', () => {
  expect(framesOf(film({ muted: [stretch(0, 20)] }))).toEqual([]);
  const cuts = [stretch(5, 7)];
  expect(framesOf(film({ cuts, muted: [stretch(4, 8)] }))).toEqual([
    [0, 120, 0],
    [180, 540, 240],
  ]);
});

it('takes nothing else away, whatever is cut, muted and goes by at another speed', () => {
  const ranges = fc
    .array(fc.tuple(fc.integer({ min: 0, max: 190 }), fc.integer({ min: 1, max: 40 })), {
      maxLength: 4,
    })
    .map((all) =>
      all.reduce<ReturnType<typeof stretch>[]>(
        (before, [at, lasts]) => lay(before, stretch(at / 10, (at + lasts) / 10)),
        [],
      ),
    );
  fc.assert(
    fc.property(
      ranges,
      ranges,
      ranges,
      fc.constantFrom(50, 150, 200),
      (cuts, muted, fast, speed) => {
        const speeds = fast.map((one) => ({ ...one, speed }));
        const with_ = film({ cuts, speeds, muted });
        const without = film({ cuts, speeds });
        const sounding = (of: typeof with_) => {
          const frames = new Set<number>();
          for (const { filmFrame, frames: count } of heardOf(of)) {
            for (let at = filmFrame; at < filmFrame + count; at++) frames.add(at);
          }
          return frames;
        };
        const [left, all] = [sounding(with_), sounding(without)];
        for (const span of without.spans) {
          for (let at = span.filmFrame; at < span.filmFrame + span.frames; at++) {
            const us = recordedIn(span, at + 0.5);
            const silent = muted.some(({ startUs, endUs }) => us >= startUs && us < endUs);
            // At a border it may be the frame beside.
            const near = muted.some(({ startUs, endUs }) =>
              [startUs, endUs].some((border) => Math.abs(border - us) < 70_000),
            );
            if (!near) expect(left.has(at)).toBe(all.has(at) && !silent);
          }
        }
      },
    ),
    { numRuns: 60 },
  );
});
