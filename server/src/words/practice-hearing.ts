import { speechIn } from '@under-chalk/core/sound/phrases';
import { levelsIn } from './sound-file';

/** A word of practice lasts so long, seconds. */
const WORD_S = 0.4;

/**
 * What a listener to practise with answers: it knows no language, but hears where something is said, and says so in the form that others
 * do.
 *
 * @param wav 16-bit samples at 16 kHz in one channel, behind a header of 44 bytes
 */
export const practiceAnswer = (wav: Buffer): string => {
  const words = speechIn(levelsIn(wav.subarray(44))).flatMap(({ startUs, endUs }, run) => {
    const count = Math.max(1, Math.round((endUs - startUs) / 1e6 / WORD_S));
    const lasts = (endUs - startUs) / 1e6 / count;
    return Array.from({ length: count }, (_, word) => ({
      word: word === 0 ? `Phrase${run + 1}` : `word${word}`,
      start: startUs / 1e6 + word * lasts,
      end: startUs / 1e6 + (word + 1) * lasts,
      confidence: word % 3 === 2 ? 0.3 : 0.9,
    }));
  });
  return JSON.stringify({ segments: [{ words }] });
};
