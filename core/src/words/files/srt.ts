import type { ReadCue } from '../read-cue';
import { tidied } from './cue-text';
import { readTimes } from './web-vtt';

/** Places and looks that some programs write before the words: `{\an8}`. */
const BRACED = /\{\\[^}]*\}/g;

/** A tag that is known; `a < b` is none. */
const TAG = /<\/?(?:b|i|u|s|c|v|font|span|ruby|rt|lang)\b[^>]*>/gi;

/**
 * Reads a SubRip file. It has no standard: a cue is what stands between two lines of times, without the number before the next
 * one; so empty lines in it, and numbers that are missing or wrong, do no harm.
 *
 * @param text lines end in `\n`
 */
export const readSrt = (text: string): ReadCue[] => {
  const lines = text.split('\n');
  const starts = lines.flatMap((line, index) =>
    line.includes('-->') && readTimes(line) ? [index] : [],
  );
  return starts.flatMap((start, index) => {
    const next = starts[index + 1];
    let end = next ?? lines.length;
    if (next !== undefined) {
      let last = next - 1;
      while (last > start && lines[last]!.trim() === '') last--;
      if (last > start && /^\s*\d+\s*$/.test(lines[last]!) && last >= next - 2) end = last;
    }
    const words = lines
      .slice(start + 1, end)
      .join('\n')
      .replace(BRACED, '');
    const plain = tidied(words.replace(TAG, ''));
    return plain === '' ? [] : [{ ...readTimes(lines[start]!)!, text: plain }];
  });
};
