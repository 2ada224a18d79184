import { LEVEL_STEP_US } from '../sound/level-line';
import type { Cue } from './cue';
import { stretchOfWords, wordsSaid } from './strike';

const ms = (count: number) => count * 1_000;
const cue: Cue = {
  ...{ id: 'cue-of-words', takeId: 'take-one', startUs: ms(1000), endUs: ms(3000) },
  text: 'so on Tuesday it is nine',
  words: [
    [ms(1000), ms(1200), 90],
    [ms(1210), ms(1400), 90],
    [ms(1500), ms(1900), 90],
    [ms(2300), ms(2400), 90],
    [ms(2400), ms(2600), 90],
    [ms(2600), ms(3000), 90],
  ],
  timed: 'by-voice',
  draft: false,
};
const decisions = { cues: [{ language: 'en', cue }], language: 'en' };
const all = { startUs: 0, endUs: ms(4000) };
/** Loud but for a dip at 2.1 s. */
const line = Uint8Array.from({ length: 200 }, (_, step) => {
  const at = step * LEVEL_STEP_US;
  return at >= ms(2080) && at < ms(2120) ? 30 : 70;
});

it('finds the words of a stretch by their middle, in the language that is spoken', () => {
  const texts = (range: { startUs: number; endUs: number }, takeId = 'take-one') =>
    wordsSaid(decisions, takeId, range).map(({ text }) => text);
  expect(texts(all)).toEqual(['so', 'on', 'Tuesday', 'it', 'is', 'nine']);
  expect(texts({ startUs: ms(1100), endUs: ms(2350) })).toEqual(['so', 'on', 'Tuesday']);
  expect(texts({ startUs: ms(1101), endUs: ms(2351) })).toEqual(['on', 'Tuesday', 'it']);
  expect(texts(all, 'take-two')).toEqual([]);
  expect(wordsSaid({ ...decisions, language: 'cy' }, 'take-one', all)).toEqual([]);
});

it('words are cut where it is quiet between them, and their neighbours keep their sound', () => {
  const words = wordsSaid(decisions, 'take-one', all);
  const { startUs, endUs } = stretchOfWords(words, 3, 4, line, all);
  // The dip between Tuesday and it.
  expect(startUs).toBeGreaterThanOrEqual(ms(2070));
  expect(startUs).toBeLessThanOrEqual(ms(2130));
  // No room between is and nine: the border itself, to a frame.
  expect(Math.abs(endUs - ms(2600))).toBeLessThan(ms(57));
  for (const [from, to] of [
    [0, 0],
    [1, 2],
    [2, 5],
    [0, 5],
  ] as const) {
    const range = stretchOfWords(words, from, to, line, all);
    const kept = words.filter((_, at) => at < from || at > to);
    for (const word of kept) {
      const over = Math.min(range.endUs, word.endUs) - Math.max(range.startUs, word.startUs);
      expect(over).toBeLessThan(ms(60));
    }
  }
});

it('the first word takes what is before it along, and the last what is after', () => {
  const words = wordsSaid(decisions, 'take-one', all);
  expect(stretchOfWords(words, 0, 5, null, all)).toEqual(all);
  expect(stretchOfWords(words, 0, 0, null, all).startUs).toBe(0);
});
