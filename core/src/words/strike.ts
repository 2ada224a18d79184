import type { LevelLine } from '../sound/level-line';
import { snapped } from '../sound/snap';
import { frameToUs, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { cuesIn, wordsIn, wordTimesOf, type WrittenCue } from './cue';

/** A word that was said in a take. */
export interface SaidWord extends TimeRange {
  readonly text: string;
  readonly cueId: string;
}

/** Of the cues of a lesson in a language, the words of each take in the order in which they are said; found once. */
const found = new WeakMap<readonly WrittenCue[], Map<string, ReadonlyMap<string, SaidWord[]>>>();

const wordsByTake = (
  cues: readonly WrittenCue[],
  language: string,
): ReadonlyMap<string, SaidWord[]> => {
  let inLanguages = found.get(cues);
  if (!inLanguages) found.set(cues, (inLanguages = new Map()));
  const before = inLanguages.get(language);
  if (before) return before;
  const takes = new Map<string, SaidWord[]>();
  for (const cue of cuesIn(cues, language)) {
    const times = wordTimesOf(cue);
    const words = wordsIn(cue.text).map((text, at): SaidWord => {
      const [startUs, endUs] = times[at]!;
      return { text, cueId: cue.id, startUs, endUs };
    });
    const there = takes.get(cue.takeId);
    if (there) there.push(...words);
    else takes.set(cue.takeId, words);
  }
  for (const words of takes.values()) words.sort((a, b) => a.startUs - b.startUs);
  inLanguages.set(language, takes);
  return takes;
};

const middle = ({ startUs, endUs }: TimeRange): Us => (startUs + endUs) / 2;

/** The words that are said in a stretch of a take: those whose middle lies in it, whether they were cut or not. */
export const wordsSaid = (
  { cues, language }: { readonly cues: readonly WrittenCue[]; readonly language: string },
  takeId: string,
  { startUs, endUs }: TimeRange,
): readonly SaidWord[] => {
  const words = wordsByTake(cues, language).get(takeId) ?? [];
  let low = 0;
  let high = words.length;
  while (low < high) {
    const at = (low + high) >> 1;
    if (middle(words[at]!) < startUs) low = at + 1;
    else high = at;
  }
  let end = low;
  while (end < words.length && middle(words[end]!) < endUs) end++;
  return words.slice(low, end);
};

/** How far into a word its border may lie, where it is quieter there, µs. */
const INTO_US = 40_000;

/**
 * Where to cut between two words: at the quietest place near the middle of what lies between them, on a frame, and hardly in
 * either.
 */
const borderBetween = (
  before: SaidWord | undefined,
  after: SaidWord | undefined,
  line: LevelLine | null,
  bounds: TimeRange,
): Us => {
  if (!before && !after) return bounds.startUs;
  // At either end, a breath is left to what is said.
  const from = before ? before.endUs : Math.max(bounds.startUs, after!.startUs - 200_000);
  const to = after ? after.startUs : Math.min(bounds.endUs, before!.endUs + 200_000);
  const at = snapped(line, Math.round((from + to) / 2));
  const [least, most] = [Math.min(from, to) - INTO_US, Math.max(from, to) + INTO_US];
  return frameToUs(nearestFrame(Math.min(most, Math.max(least, at))));
};

/**
 * The stretch of recorded time that some words of a run take: from between the word before and the first of them to between the
 * last and the word after.
 *
 * @param words all words of the run, in order
 * @param from first of those that are meant; `to`: the last
 * @param line levels of the take's voice, if there is any
 * @param bounds of the run
 */
export const stretchOfWords = (
  words: readonly SaidWord[],
  from: number,
  to: number,
  line: LevelLine | null,
  bounds: TimeRange,
): TimeRange => {
  const startUs =
    from === 0 ? bounds.startUs : borderBetween(words[from - 1], words[from], line, bounds);
  const endUs =
    to === words.length - 1 ? bounds.endUs : borderBetween(words[to], words[to + 1], line, bounds);
  return { startUs, endUs: Math.max(endUs, startUs + frameToUs(1)) };
};
