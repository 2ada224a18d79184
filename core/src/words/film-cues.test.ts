import * as fc from 'fast-check';
import { filmOf, type Film } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { frameToUs, nearestFrame } from '../time/frames';
import { lay } from '../time/timeline';
import { spread, wordsIn, type Cue } from './cue';
import { cueAt, filmCuesOf } from './film-cues';
import { cuesOfFilmText } from './film-placing';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const takes = [takeOfLength('take-one', s(20)), takeOfLength('take-two', s(12))];
const cue = (id: string, from: number, to: number, text: string, takeId = 'take-one'): Cue => ({
  ...{ id, takeId, startUs: s(from), endUs: s(to), text },
  ...{ words: null, timed: 'by-hand' as const, draft: false },
});
/** One word a second. */
const evenly = (of: Cue): Cue => ({
  ...of,
  words: wordsIn(of.text).map((_, at) => [of.startUs + s(at), of.startUs + s(at + 1), 90] as const),
});
const film = (cuts: readonly [number, number][], takeId = 'take-one'): Film =>
  filmOf(
    lessonOf(takes, {
      cuts: cuts.map(([from, to]) => ({ takeId, startUs: s(from), endUs: s(to) })),
    }),
  );
const told = (list: ReturnType<typeof filmCuesOf>) =>
  list.map(({ startUs, endUs, text }) => [startUs / 1e6, endUs / 1e6, text]);

const TIDES = evenly(cue('cue-tides', 2, 7, 'the tide\nrises by twelfths'));

describe('cues in a film', () => {
  it('stand where they were said, line breaks and all', () => {
    expect(told(filmCuesOf(film([]), [TIDES]))).toEqual([[2, 7, 'the tide\nrises by twelfths']]);
  });

  it('lose the words that are cut, and are one where the film goes on with them', () => {
    // `rises` is gone, and a third of the next.
    expect(told(filmCuesOf(film([[4, 5.3]]), [TIDES]))).toEqual([[2, 5.7, 'the tide by twelfths']]);
  });

  it('begin and end with what is left of them', () => {
    expect(told(filmCuesOf(film([[0, 4]]), [TIDES]))).toEqual([[0, 3, 'rises by twelfths']]);
    expect(told(filmCuesOf(film([[4, 20]]), [TIDES]))).toEqual([[2, 4, 'the tide']]);
    expect(told(filmCuesOf(film([[1, 8]]), [TIDES]))).toEqual([]);
  });

  it('are divided where something else comes between', () => {
    const lesson = lessonOf(takes);
    const parts = [
      ['part-one', 'take-one', 0, 4],
      ['part-two', 'take-two', 0, 12],
      ['part-three', 'take-one', 4, 20],
    ] as const;
    const moved = filmOf({
      ...lesson,
      decisions: {
        ...lesson.decisions,
        placements: parts.map(([id, takeId], at) => ({ id, takeId, rank: `a${at}` })),
        trims: parts.map(([placementId, , from, to]) => ({
          placementId,
          startUs: s(from),
          endUs: s(to),
        })),
      },
    });
    expect(told(filmCuesOf(moved, [TIDES]))).toEqual([
      [2, 4, 'the tide'],
      [16, 19, 'rises by twelfths'],
    ]);
  });

  it('go by as fast as what is shown', () => {
    const fast = filmOf(
      lessonOf(takes, {
        speeds: [{ takeId: 'take-one', startUs: s(2), endUs: s(6), speed: 200 }],
      }),
    );
    expect(told(filmCuesOf(fast, [TIDES]))).toEqual([[2, 5, 'the tide\nrises by twelfths']]);
  });

  it('may overlap; of two the later is read', () => {
    const list = filmCuesOf(film([]), [TIDES, cue('cue-over', 6, 9, 'over it')]);
    expect(cueAt(list, s(6.5))?.text).toBe('over it');
    expect(cueAt(list, s(5.5))?.cue.id).toBe('cue-tides');
    expect(cueAt(list, s(9))).toBeUndefined();
  });
});

type Stretch = { takeId: string; startUs: number; endUs: number };
const anyCuts = fc
  .array(
    fc
      .tuple(
        fc.constantFrom('take-one', 'take-two'),
        fc.integer({ min: 0, max: 600 }),
        fc.integer({ min: 1, max: 150 }),
      )
      .map(([takeId, from, lasts]) => ({
        takeId,
        startUs: frameToUs(from),
        endUs: frameToUs(from + lasts),
      })),
    { maxLength: 5 },
  )
  .map((all) => all.reduce<Stretch[]>((before, one) => lay(before, one), []));
const anyCues = fc
  .array(
    fc.tuple(
      fc.constantFrom('take-one', 'take-two'),
      fc.integer({ min: 0, max: s(11) }),
      fc.integer({ min: s(0.2), max: s(6) }),
      fc.integer({ min: 1, max: 9 }),
      fc.boolean(),
    ),
    { maxLength: 8 },
  )
  .map((all) =>
    all
      .map(([takeId, startUs, lasts, count, known], at): Cue => {
        const text = Array.from({ length: count }, (_, word) => `w${at}-${word}`).join(' ');
        const times = spread(wordsIn(text), startUs, startUs + lasts);
        return {
          ...{ id: `cue-${at}-of-all`, takeId, startUs, endUs: startUs + lasts, text },
          ...{ words: known ? times : null, timed: 'by-voice', draft: false },
        };
      })
      .sort((a, b) => (a.takeId < b.takeId ? -1 : a.takeId > b.takeId ? 1 : a.startUs - b.startUs)),
  );

it('a word is in the film once if its middle is kept, and nowhere if it was cut', () =>
  fc.assert(
    fc.property(anyCuts, anyCues, (cuts, cues) => {
      const made = filmOf(lessonOf(takes, { cuts }));
      const shown = filmCuesOf(made, cues);
      const words = shown.flatMap(({ text }) => wordsIn(text)).sort();
      const kept = cues
        .flatMap((one) => {
          const length = takes.find(({ id }) => id === one.takeId)!.durationUs;
          const times = one.words ?? spread(wordsIn(one.text), one.startUs, one.endUs);
          return wordsIn(one.text).filter((_, at) => {
            const middle = (times[at]![0] + times[at]![1]) / 2;
            return (
              middle < length &&
              !cuts.some(
                ({ takeId, startUs, endUs }) =>
                  takeId === one.takeId &&
                  middle >= frameToUs(nearestFrame(startUs)) &&
                  middle < frameToUs(nearestFrame(endUs)),
              )
            );
          });
        })
        .sort();
      expect(words).toEqual(kept);
      for (const { startUs, endUs } of shown) {
        expect(startUs).toBeGreaterThanOrEqual(0);
        expect(endUs).toBeGreaterThan(startUs);
        expect(endUs).toBeLessThanOrEqual(made.durationUs);
      }
    }),
    { seed: 5, numRuns: 300 },
  ));

it('words that are placed by times of the film are read there again', () => {
  let next = 0;
  const newId = () => `cue-number-${next++}`;
  fc.assert(
    fc.property(
      anyCuts,
      fc.integer({ min: 0, max: s(25) }),
      fc.integer({ min: s(1), max: s(5) }),
      (cuts, startUs, lasts) => {
        const made = filmOf(lessonOf(takes, { cuts }));
        if (made.durationUs < s(1)) return;
        const text = {
          startUs: Math.min(startUs, made.durationUs - s(1)),
          text: 'one two three four',
        };
        const endUs = Math.min(text.startUs + lasts, made.durationUs);
        const cues = cuesOfFilmText(made, { ...text, endUs }, { timed: 'by-hand', newId });
        const shown = filmCuesOf(made, cues);
        expect(shown.map((one) => one.text).join(' ')).toBe('one two three four');
        // To a frame; a word that lies over a cut is in the greater part of it.
        const word = (endUs - text.startUs) / 3;
        expect(Math.abs(shown[0]!.startUs - text.startUs)).toBeLessThan(word / 2 + s(0.04));
        expect(Math.abs(shown.at(-1)!.endUs - endUs)).toBeLessThan(word / 2 + s(0.04));
        if (cuts.length > 0) return;
        expect([shown[0]!.startUs, shown.at(-1)!.endUs]).toEqual([text.startUs, endUs]);
      },
    ),
    { seed: 8, numRuns: 300 },
  );
});
