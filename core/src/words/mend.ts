import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { MOST_SIGNS, spread, wordsIn, wordTimesOf, type Cue, type WordTime } from './cue';

/** The shortest that a cue can be made, µs. */
export const LEAST_CUE_US = 100_000;

/**
 * Which words of a text are the same as which of another, in order: the longest such list (Hunt and Szymanski's problem, solved by
 * table: cues are short).
 *
 * @returns for each new word the old one, or −1
 */
const sameWords = (before: readonly string[], after: readonly string[]): number[] => {
  const rows = before.length + 1;
  const wide = after.length + 1;
  const longest = new Uint16Array(rows * wide);
  for (let i = before.length - 1; i >= 0; i--) {
    for (let j = after.length - 1; j >= 0; j--) {
      longest[i * wide + j] =
        before[i] === after[j]
          ? longest[(i + 1) * wide + j + 1]! + 1
          : Math.max(longest[(i + 1) * wide + j]!, longest[i * wide + j + 1]!);
    }
  }
  const found = after.map(() => -1);
  for (let i = 0, j = 0; i < before.length && j < after.length;) {
    if (before[i] === after[j]) found[j++] = i++;
    else if (longest[(i + 1) * wide + j]! >= longest[i * wide + j + 1]!) i++;
    else j++;
  }
  return found;
};

/** A word without its signs and capitals: `Tides,` was said when `tides` was. */
const bare = (word: string): string =>
  word.toLocaleLowerCase().replace(/[^\p{L}\p{N}]/gu, '') || word;

/** The cue with another text: words that stay keep their times, new ones share what lies between those. */
export const retexted = (cue: Cue, text: string): Cue => {
  const words = wordsIn(text);
  if (cue.words === null) return { ...cue, text, draft: false };
  const said = cue.words;
  const same = sameWords(wordsIn(cue.text).map(bare), words.map(bare));
  const times: WordTime[] = [];
  for (let from = 0; from < words.length;) {
    if (same[from]! >= 0) {
      times.push(said[same[from]!]!);
      from++;
      continue;
    }
    let to = from;
    while (to < words.length && same[to]! < 0) to++;
    const next = to < words.length ? said[same[to]!]![0] : cue.endUs;
    const startUs = times.at(-1)?.[1] ?? cue.startUs;
    times.push(...spread(words.slice(from, to), startUs, Math.max(startUs, next)));
    from = to;
  }
  return { ...cue, text, words: times, draft: false };
};

/** A cue in two, before one of its words; null where that leaves one of them empty. */
export const split = (cue: Cue, beforeWord: number, newId: string): [Cue, Cue] | null => {
  const words = wordsIn(cue.text);
  if (beforeWord <= 0 || beforeWord >= words.length) return null;
  const times = wordTimesOf(cue);
  // What is quiet between the two belongs to the first, which stays to be read.
  const atUs = times[beforeWord]![0];
  if (atUs <= cue.startUs || atUs >= cue.endUs) return null;
  // Where the words stand in the text itself, for its own line breaks.
  const place = [...cue.text.matchAll(/\S+/g)][beforeWord]!.index;
  const own = (from: number, to?: number) => cue.words && times.slice(from, to);
  return [
    { ...cue, endUs: atUs, text: cue.text.slice(0, place).trim(), words: own(0, beforeWord) },
    { ...cue, id: newId, startUs: atUs, text: cue.text.slice(place), words: own(beforeWord) },
  ];
};

/** Two cues of a take as one, which has the first one's name; null where they aren't of one take, or too long for one. */
export const join = (first: Cue, second: Cue): Cue | null => {
  const text = `${first.text} ${second.text}`;
  if (first.takeId !== second.takeId || text.length > MOST_SIGNS) return null;
  const known = first.words !== null || second.words !== null;
  const rank = ['by-voice', 'by-hand', 'roughly'] as const;
  return {
    ...first,
    startUs: Math.min(first.startUs, second.startUs),
    endUs: Math.max(first.endUs, second.endUs),
    text,
    words: known ? [...wordTimesOf(first), ...wordTimesOf(second)] : null,
    // No surer than the less sure of the two.
    timed: rank[Math.max(rank.indexOf(first.timed), rank.indexOf(second.timed))]!,
    draft: first.draft || second.draft,
  };
};

const clamped = (us: Us, { startUs, endUs }: TimeRange): Us =>
  Math.round(Math.min(endUs, Math.max(startUs, us)));

/** The cue for another stretch of its take; its words stay where they are said, as far as they are in it. */
export const retimed = (cue: Cue, startUs: Us, endUs: Us): Cue => {
  const range = { startUs: Math.round(startUs), endUs: Math.round(endUs) };
  const heard = cue.words?.every(
    ([from, to]) => from >= range.startUs - LEAST_CUE_US && to <= range.endUs + LEAST_CUE_US,
  );
  const words =
    cue.words && heard
      ? cue.words.map(([from, to, sure]): WordTime => [
          clamped(from, range),
          clamped(to, range),
          sure,
        ])
      : null;
  return {
    ...cue,
    ...range,
    words,
    timed: words && cue.timed === 'by-voice' ? 'by-voice' : 'by-hand',
  };
};

/** Cues moved by a time, as far as their take reaches; all by the same, so that what lies between them stays. */
export const shifted = (cues: readonly Cue[], byUs: Us, durationUs: Us): Cue[] => {
  const first = Math.min(...cues.map(({ startUs }) => startUs));
  const last = Math.max(...cues.map(({ endUs }) => endUs));
  const by = Math.round(Math.min(Math.max(byUs, -first), Math.max(0, durationUs - last)));
  if (by === 0 || cues.length === 0) return [];
  return cues.map((cue) => ({
    ...cue,
    startUs: cue.startUs + by,
    endUs: cue.endUs + by,
    words: cue.words && cue.words.map(([from, to, sure]): WordTime => [from + by, to + by, sure]),
    timed: 'by-hand',
  }));
};

/** The cues in which a text stands, with another in its place. Capitals count only if `exact`. */
export const replacedIn = (
  cues: readonly Cue[],
  wanted: string,
  by: string,
  exact = false,
): Cue[] => {
  if (wanted === '') return [];
  const pattern = new RegExp(wanted.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&'), exact ? 'gu' : 'giu');
  return cues.flatMap((cue) => {
    // A function: `$` in what is put there is a dollar.
    const text = cue.text.replace(pattern, () => by).trim();
    return text === cue.text || text === '' || text.length > MOST_SIGNS
      ? []
      : [retexted(cue, text)];
  });
};
