import * as fc from 'fast-check';
import { rateOf } from '../lesson/speed';
import { heardOf } from '../sound/heard';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { shownIn } from '../testing/shown';
import { frameToUs, nearestFrame } from '../time/frames';
import { lay } from '../time/timeline';
import { filmOf, filmTimeOf, recordedAt, spanAt, type Film } from './film';
import { recordedFrameIn } from './span';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const takes = [takeOfLength('take-one', s(20)), takeOfLength('take-two', s(11))];
const SPEEDS = [50, 75, 100, 125, 150, 200, 300, 400, 800];

const stretch = fc
  .tuple(
    fc.constantFrom('take-one', 'take-two'),
    fc.integer({ min: 0, max: s(20) }),
    fc.integer({ min: 1, max: s(6) }),
  )
  .map(([takeId, startUs, lasts]) => ({ takeId, startUs, endUs: startUs + lasts }));
type Stretch = { takeId: string; startUs: number; endUs: number };
const cuts = fc
  .array(stretch, { maxLength: 4 })
  .map((all) => all.reduce<Stretch[]>((before, one) => lay(before, one), []));
const speeds = fc
  .array(fc.tuple(stretch, fc.constantFrom(...SPEEDS)), { maxLength: 5 })
  .map((all) =>
    all.reduce<(Stretch & { speed: number })[]>(
      (before, [one, speed]) => lay(before, { ...one, speed }),
      [],
    ),
  );
const film = fc
  .tuple(cuts, speeds)
  .map(([cut, sped]): Film => filmOf(lessonOf(takes, { cuts: cut, speeds: sped })));

describe('a film whose stretches go by at speeds of their own', () => {
  it('shows what was recorded in order, and nothing that was cut, however it goes by', () => {
    fc.assert(
      fc.property(film, (made) => {
        const wrong = made.spans.flatMap((span) => {
          const { recorded, film: shown } = span.rate;
          let before = span.startFrame - 1;
          return Array.from({ length: span.frames }, (_, at) => {
            const frame = recordedFrameIn(span, span.filmFrame + at);
            const step = frame - before;
            before = frame;
            const inside = frame >= span.startFrame && frame < span.endFrame && step >= 0;
            // What is slower leaves nothing out; what is faster shows nothing twice.
            const fits =
              at === 0 || ((recorded > shown || step <= 1) && (recorded < shown || step >= 1));
            return inside && fits ? [] : [frame];
          }).flat();
        });
        expect(wrong).toEqual([]);
      }),
      { seed: 3, numRuns: 30 },
    );
  });

  it('is as long as its stretches by their speeds, to the frame, and following on one another', () => {
    fc.assert(
      fc.property(film, (made) => {
        let next = 0;
        for (const span of made.spans) {
          expect(span.filmFrame).toBe(next);
          const exact = ((span.endFrame - span.startFrame) * span.rate.film) / span.rate.recorded;
          expect(Math.abs(span.frames - exact)).toBeLessThan(1);
          next += span.frames;
        }
        expect(made.frames).toBe(next);
        expect(made.durationUs).toBe(frameToUs(next));
      }),
      { seed: 4, numRuns: 60 },
    );
  });

  it('finds the way from the film to what was recorded and back', () => {
    fc.assert(
      fc.property(film, fc.double({ min: 0, max: 1, noNaN: true }), (made, share) => {
        const filmUs = Math.floor(share * (made.durationUs - 1));
        const place = recordedAt(made, filmUs);
        if (made.frames === 0) return;
        const back = filmTimeOf(made, place!);
        // The last frame of a stretch that goes by faster shows less than a whole step.
        const span = spanAt(
          made,
          Math.min(made.frames - 1, Math.floor((filmUs * 30) / 1e6 + 1e-4)),
        );
        const isLast = filmUs >= frameToUs(span!.filmFrame + span!.frames - 1) - 1;
        expect(Math.abs(back! - filmUs)).toBeLessThanOrEqual(isLast ? frameToUs(1) + 1 : 3);
      }),
      { seed: 5, numRuns: 150 },
    );
  });

  it('shows the same recorded frames wherever else something is cut, and as many in two parts as in one', () => {
    const at = (speed: number, cut: Stretch[], startUs = 0) =>
      filmOf(
        lessonOf([takes[0]!], {
          cuts: cut,
          speeds: [{ takeId: 'take-one', startUs, endUs: s(20), speed }],
        }),
      );
    fc.assert(
      fc.property(fc.constantFrom(...SPEEDS), fc.integer({ min: 1, max: 599 }), (speed, border) => {
        const whole = at(speed, []);
        const frames = shownIn(whole).map(({ frame }) => frame);
        const cutBefore = at(speed, [{ takeId: 'take-one', startUs: 0, endUs: frameToUs(border) }]);
        const later = shownIn(cutBefore).map(({ frame }) => frame);
        expect(frames.slice(-later.length)).toEqual(later);
        const cutAfter = at(speed, [
          { takeId: 'take-one', startUs: frameToUs(border), endUs: s(20) },
        ]);
        expect(cutBefore.frames + cutAfter.frames).toBe(whole.frames);
      }),
      { seed: 6, numRuns: 30 },
    );
  });

  it('is heard where it is seen: at its speed up to twice, and above that only where it goes and comes back', () => {
    fc.assert(
      fc.property(film, (made) => {
        for (const heard of heardOf(made)) {
          const { take, rate, step, filmFrame, frames } = heard;
          const span = spanAt(made, filmFrame)!;
          expect(take).toBe(span.take);
          expect(filmFrame + frames).toBeLessThanOrEqual(span.filmFrame + span.frames);
          const recorded = (at: number) => (at * rate.recorded) / rate.film;
          expect(recorded(step)).toBeGreaterThanOrEqual(span.startFrame);
          expect(recorded(step + frames - 1)).toBeLessThan(span.endFrame);
          expect(recorded(1)).toBeLessThanOrEqual(2);
        }
      }),
      { seed: 7, numRuns: 60 },
    );
    const fast = filmOf(
      lessonOf([takes[0]!], {
        speeds: [{ takeId: 'take-one', startUs: s(4), endUs: s(16), speed: 400 }],
      }),
    );
    const list = heardOf(fast).map(({ filmFrame, frames, fadeInUs, fadeOutUs }) => [
      ...[filmFrame, frames, fadeInUs, fadeOutUs],
    ]);
    // It runs on into what goes by faster, and out of it.
    expect(list).toEqual([
      [0, 120, 0, 0],
      [120, 12, 0, 400_000],
      [198, 12, 400_000, 0],
      [210, 120, 0, 0],
    ]);
  });

  it('has what was decided about a stretch begin and end in the frames that show it', () => {
    fc.assert(
      fc.property(speeds, fc.integer({ min: 1, max: 500 }), (sped, start) => {
        const [startUs, endUs] = [frameToUs(start), frameToUs(start + 47)];
        const made = filmOf(lessonOf([takes[0]!], { speeds: sped }));
        const inside = shownIn(made).filter(
          ({ frame }) => frame >= nearestFrame(startUs) && frame < nearestFrame(endUs),
        );
        const cut = filmOf(
          lessonOf([takes[0]!], { speeds: sped, cuts: [{ takeId: 'take-one', startUs, endUs }] }),
        );
        expect(made.frames - cut.frames).toBe(inside.length);
      }),
      { seed: 8, numRuns: 30 },
    );
  });
});

it('has rates in their lowest terms', () => {
  expect(SPEEDS.map(rateOf)).toEqual(
    [
      [1, 2],
      [3, 4],
      [1, 1],
      [5, 4],
      [3, 2],
      [2, 1],
      [3, 1],
      [4, 1],
      [8, 1],
    ].map(([recorded, film]) => ({ recorded, film })),
  );
});
