import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cleanText } from '../text/clean';
import { compared } from '../text/compared';
import type { Us } from '../time/us';

/** A language as BCP 47 names it: `en`, `de`, `pt-BR`. */
export const languageSchema = z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/);

/** When a word is said, µs of recorded time, and how sure that is, 0 to 100. Plain numbers: an hour has nine thousand of them. */
export const wordTimeSchema = z
  .tuple([usSchema, usSchema, z.number().int().min(0).max(100)])
  .readonly();
export type WordTime = readonly [startUs: Us, endUs: Us, sure: number];

/** Words of a text as they are counted everywhere: what stands between white space. */
export const wordsIn = (text: string): string[] => text.split(/\s+/).filter(Boolean);

/** Most signs in one cue. */
export const MOST_SIGNS = 1_000;

/**
 * Words that are said in a stretch of recorded time (a WebVTT *cue*). It belongs to its take, so that no cut and no other
 * order can put it wrong.
 */
export const cueSchema = z
  .object({
    id: idSchema,
    takeId: idSchema,
    startUs: usSchema,
    endUs: usSchema,
    /** A line break in it is one that somebody has set. */
    text: z.string().overwrite(cleanText).trim().min(1).max(MOST_SIGNS),
    /** One for each word of the text; null: spread evenly over it. */
    words: z.array(wordTimeSchema).readonly().nullable(),
    /** How its times came about: guessed from where somebody speaks, set by somebody, or found in the voice. */
    timed: z.enum(['roughly', 'by-hand', 'by-voice']),
    /** A draft of the machine's, that nobody has looked at yet. */
    draft: z.boolean(),
  })
  .refine((cue) => cue.endUs > cue.startUs, 'a cue ends after it starts')
  .refine(
    (cue) => cue.words === null || cue.words.length === wordsIn(cue.text).length,
    'a time for each word',
  )
  .readonly();
export type Cue = z.infer<typeof cueSchema>;

/** A cue, and the language that it is in. */
export const writtenCueSchema = z.object({ language: languageSchema, cue: cueSchema }).readonly();
export type WrittenCue = z.infer<typeof writtenCueSchema>;

/** By take and time; by id where those are the same, so that every tab has the same order. */
export const inTakeOrder = (a: Cue, b: Cue): number =>
  compared(a.takeId, b.takeId) ||
  a.startUs - b.startUs ||
  a.endUs - b.endUs ||
  compared(a.id, b.id);

/** By language, and then as {@link inTakeOrder}. */
export const inCueOrder = (a: WrittenCue, b: WrittenCue): number =>
  compared(a.language, b.language) || inTakeOrder(a.cue, b.cue);

/** The cues in one language, by take and time. */
export const cuesIn = (all: readonly WrittenCue[], language: string): Cue[] =>
  all.filter((one) => one.language === language).map(({ cue }) => cue);

/** The languages that there are cues in, the one that is spoken first. */
export const languagesOf = (all: readonly WrittenCue[], spoken: string): string[] => {
  const found = [...new Set(all.map(({ language }) => language))];
  return found.sort((a, b) => Number(b === spoken) - Number(a === spoken) || compared(a, b));
};

/** Signs of a text as a reader counts them. */
export const signsIn = (text: string): number => [...text].length;

/** When each word of a cue is said; where that isn't known, by the share that its signs have of all. */
export const wordTimesOf = ({ startUs, endUs, text, words }: Cue): readonly WordTime[] =>
  words ?? spread(wordsIn(text), startUs, endUs);

/** Words one after another over a stretch, each as long as its signs and the space after it; nothing of that is sure. */
export const spread = (words: readonly string[], startUs: Us, endUs: Us): WordTime[] => {
  const weights = words.map((word) => signsIn(word) + 1);
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  let before = 0;
  return weights.map((weight) => {
    const at = (signs: number) => Math.round(startUs + ((endUs - startUs) * signs) / all);
    const time: WordTime = [at(before), at(before + weight), 0];
    before += weight;
    return time;
  });
};

/** How sure the times of a cue are, 0 to 100: the mean of its words; null where they weren't found in the voice. */
export const sureOf = ({ timed, words }: Cue): number | null =>
  timed === 'by-voice' && words && words.length > 0
    ? Math.round(words.reduce((sum, [, , sure]) => sum + sure, 0) / words.length)
    : null;
