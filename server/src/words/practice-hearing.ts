import { speechIn } from '@under-chalk/core/sound/beats';
import { levelOf } from '@under-chalk/core/sound/level';
import { LEVEL_STEP_US, toLevelByte } from '@under-chalk/core/sound/level-line';

const STEP = (16_000 * LEVEL_STEP_US) / 1e6;
/** A word of practice lasts so long, seconds. */
const WORD_S = 0.4;

/**
 * What a listener to practise with answers: it knows no language, but hears where something is said, and says so in the form that others
 * do.
 *
 * @param wav 16-bit samples at 16 kHz in one channel, behind a header of 44 bytes
 */
export const practiceAnswer = (wav: Buffer): string => {
  const samples = wav.subarray(44);
  const levels: number[] = [];
  for (let at = 0; at + STEP * 2 <= samples.length; at += STEP * 2) {
    const part = Float32Array.from(
      { length: STEP },
      (_, n) => samples.readInt16LE(at + n * 2) / 32_768,
    );
    levels.push(toLevelByte(levelOf(part).rmsDbfs));
  }
  const words = speechIn(Uint8Array.from(levels)).flatMap(({ startUs, endUs }, run) => {
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
