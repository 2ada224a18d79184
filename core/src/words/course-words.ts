import { DOUBTFUL, type HeardText } from './drafted';

/** Shorter words are nobody's own. */
const LEAST_LETTERS = 4;
const MOST_WORDS = 2_000;
const WORD = /[\p{L}][\p{L}\p{M}'’-]*/gu;

/** A word with nothing but its letters, small. */
export const plainWord = (text: string): string =>
  text
    .toLocaleLowerCase()
    .replace(/[’]/g, "'")
    .replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');

/** Whether a word at some place of a text begins a sentence, where all words have a capital. */
const beginsSentence = (text: string, at: number): boolean =>
  /(^|[.!?…:;\n•–-])\s*["“(]?$/u.test(text.slice(0, at));

/**
 * A course's own words, as it spells them: of what its outline, its materials and its mended captions say. A name keeps
 * the capital that it has within a sentence.
 */
export const courseWordsOf = (texts: readonly string[]): string[] => {
  const found = new Map<string, { text: string; surely: boolean }>();
  for (const text of texts) {
    for (const match of text.matchAll(WORD)) {
      const word = match[0].replace(/['’-]+$/u, '');
      const plain = plainWord(word);
      if ([...plain].length < LEAST_LETTERS) continue;
      // What is all in capitals may be a heading.
      const isShouted = word === word.toLocaleUpperCase();
      const surely = !isShouted && !beginsSentence(text, match.index);
      const before = found.get(plain);
      if (before && (before.surely || !surely)) continue;
      if (!before && found.size >= MOST_WORDS) continue;
      found.set(plain, { text: surely ? word : isShouted || !surely ? plain : word, surely });
    }
  }
  return [...found.values()].map(({ text }) => text);
};

/** How words sound: each a list of sounds; none where nobody can tell. */
export type SoundsOf = (word: string) => readonly (readonly string[])[];

/** Steps from one list of sounds to another: one put in, left out or changed (Levenshtein). */
const stepsBetween = (a: readonly string[], b: readonly string[]): number => {
  let row = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let at = 1; at <= a.length; at++) {
    const next = [at];
    for (let other = 1; other <= b.length; other++) {
      const changed = row[other - 1]! + (a[at - 1] === b[other - 1] ? 0 : 1);
      next.push(Math.min(changed, row[other]! + 1, next[other - 1]! + 1));
    }
    row = next;
  }
  return row[b.length]!;
};

/** Of so many sounds one may be another. */
const SOUNDS_A_STEP = 4;

/** The words of a draft as the course spells them. */
export interface Spelled {
  readonly heard: readonly HeardText[];
  /** Words that are another now, as they are spelled. */
  readonly changed: readonly string[];
}

/**
 * Corrects a draft by a course's own words: one that sounds as one of them, or is doubtful and nearly sounds so, is that; and one
 * that is among them is spelled as they are. Two words that sound as one of them together are that too.
 *
 * @param course as {@link courseWordsOf} gives them
 */
export const spelledAs = (
  heard: readonly HeardText[],
  course: readonly string[],
  soundsOf: SoundsOf,
): Spelled => {
  const known = new Map(course.map((text) => [plainWord(text), text]));
  const own = course.flatMap((text) =>
    soundsOf(plainWord(text)).map((sounds) => ({ text, sounds, joined: sounds.join(' ') })),
  );
  const alike = new Map<string, string>();
  for (const { text, joined } of own) if (!alike.has(joined)) alike.set(joined, text);
  const changed = new Set<string>();
  const exactly = (sounds: readonly (readonly string[])[]): string | undefined => {
    for (const one of sounds) {
      const text = one.length >= 2 ? alike.get(one.join(' ')) : undefined;
      if (text !== undefined) return text;
    }
    return undefined;
  };
  const nearest = (sounds: readonly (readonly string[])[]): string | undefined => {
    let [best, fewest] = [undefined as string | undefined, Number.POSITIVE_INFINITY];
    for (const said of sounds) {
      for (const { text, sounds: those } of own) {
        const most = Math.floor(Math.min(said.length, those.length) / SOUNDS_A_STEP);
        if (Math.abs(said.length - those.length) > most) continue;
        const steps = stepsBetween(said, those);
        if (steps <= most && steps < fewest) [best, fewest] = [text, steps];
      }
    }
    return best;
  };
  const out: HeardText[] = [];
  for (let at = 0; at < heard.length; at++) {
    const word = heard[at]!;
    const plain = plainWord(word.text);
    const spelling = known.get(plain);
    if (spelling !== undefined) {
      out.push({ ...word, text: spelling });
      continue;
    }
    const sounds = soundsOf(plain);
    const next = heard[at + 1];
    const together =
      next && !known.has(plainWord(next.text))
        ? exactly(
            sounds.flatMap((one) =>
              soundsOf(plainWord(next.text)).map((other) => [...one, ...other]),
            ),
          )
        : undefined;
    if (together !== undefined && next) {
      changed.add(together);
      out.push({
        ...word,
        text: together,
        endUs: next.endUs,
        sure: Math.min(word.sure, next.sure),
      });
      at++;
      continue;
    }
    const text = exactly(sounds) ?? (word.sure < DOUBTFUL ? nearest(sounds) : undefined);
    if (text !== undefined) changed.add(text);
    out.push(text === undefined ? word : { ...word, text });
  }
  return { heard: out, changed: [...changed] };
};
