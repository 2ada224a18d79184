import { signsIn, wordsIn } from './cue';
import { fitsOneCue, MOST_IN_CUE } from './lines';

/** The sentences of a text, in order; a line break ends one (Unicode UAX #29, sentence boundaries). */
export const sentencesOf = (text: string, language: string): string[] => {
  const segmenter = new Intl.Segmenter(language, { granularity: 'sentence' });
  return text
    .split(/\n+/)
    .flatMap((paragraph) => [...segmenter.segment(paragraph)].map(({ segment }) => segment.trim()))
    .filter(Boolean);
};

/** How good it is to break after a word. */
const goodness = (word: string): number =>
  /[.!?…]["”’)]?$/.test(word)
    ? 3
    : /[;:–—]$/.test(word)
      ? 2
      : /[,，、]["”’)]?$/.test(word)
        ? 1.5
        : 0;

/**
 * The word that a text is best broken before: near the middle, and after what ends a clause if that is not far off. Null where there is
 * but one word.
 */
export const breakOf = (words: readonly string[]): number | null => {
  if (words.length < 2) return null;
  const all = signsIn(words.join(' '));
  let before = 0;
  let best = 1;
  let least = Number.POSITIVE_INFINITY;
  for (let at = 1; at < words.length; at++) {
    before += signsIn(words[at - 1]!) + 1;
    const off = Math.abs(before / all - 0.5) - 0.12 * goodness(words[at - 1]!);
    if (off < least) [least, best] = [off, at];
  }
  return best;
};

/** A sentence in pieces of which each fits into one cue, with its words told apart by nothing but spaces. */
const piecesOfSentence = (sentence: string): string[] => {
  const words = wordsIn(sentence);
  const whole = words.join(' ');
  if (fitsOneCue(whole)) return words.length > 0 ? [whole] : [];
  // A script without spaces, or an address.
  if (words.length === 1) {
    const signs = [...whole];
    return Array.from({ length: Math.ceil(signs.length / MOST_IN_CUE) }, (_, at) =>
      signs.slice(at * MOST_IN_CUE, (at + 1) * MOST_IN_CUE).join(''),
    );
  }
  const at = breakOf(words)!;
  return [words.slice(0, at), words.slice(at)].flatMap((part) => piecesOfSentence(part.join(' ')));
};

/** A piece with fewer signs than this isn't read by itself, if it can stand with a neighbour. */
const SHORT = 24;

/** A text in pieces of which each fits into one cue: its sentences, parts of long ones, and short ones together. */
export const piecesOf = (text: string, language: string): string[] =>
  text.split(/\n+/).flatMap((paragraph) => {
    const pieces: string[] = [];
    for (const piece of sentencesOf(paragraph, language).flatMap(piecesOfSentence)) {
      const before = pieces.at(-1);
      const together = `${before} ${piece}`;
      const short = Math.min(signsIn(before ?? ''), signsIn(piece)) < SHORT;
      if (before !== undefined && short && fitsOneCue(together))
        pieces[pieces.length - 1] = together;
      else pieces.push(piece);
    }
    return pieces;
  });
