import * as z from 'zod';
import type { Film } from '../film/film';
import { inFilm, type InFilm } from '../film/in-film';
import { idSchema, usSchema } from '../lesson/take';
import { cleanText } from '../text/clean';
import { compared } from '../text/compared';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { signsIn } from './cue';
import type { ReadCue } from './read-cue';

/** Most signs in one: what is longer belongs into what is said. */
export const MOST_DESCRIBED_SIGNS = 400;

/**
 * What is seen at a moment, in words, for somebody who doesn't see it (audio description, WCAG 2.2 §1.2.7: the film waits while it
 * is read out). It belongs to recorded time, as a cue does, and is in the language that is spoken.
 */
export const audioDescriptionSchema = z
  .object({
    id: idSchema,
    takeId: idSchema,
    atUs: usSchema,
    text: z.string().overwrite(cleanText).trim().min(1).max(MOST_DESCRIBED_SIGNS),
  })
  .readonly();
export type AudioDescription = z.infer<typeof audioDescriptionSchema>;

/** By take and time; by id where those are the same, so that every tab has the same order. */
export const inDescribedOrder = (a: AudioDescription, b: AudioDescription): number =>
  compared(a.takeId, b.takeId) || a.atUs - b.atUs || compared(a.id, b.id);

/** A description where the film comes to it. */
export type FilmDescription = InFilm<AudioDescription>;

/** A description as it leaves the house: words, and a time of the film. */
export const readDescriptionSchema = z.object({ filmUs: usSchema, text: z.string() }).readonly();
export type ReadDescription = z.infer<typeof readDescriptionSchema>;

/** All that is described of a film, as it is given to others. */
export const readDescriptionsOf = (film: Film): ReadDescription[] =>
  inFilm(film, film.lesson.decisions.audioDescriptions).map(({ filmUs, of: { text } }) => ({
    filmUs,
    text,
  }));

/** Signs that a voice reads out in a second: 150 words a minute, as describers are advised to count. */
const SIGNS_A_SECOND = 14;

/** How long it takes to read a text out, as it is mostly read. */
export const readOutUs = (text: string): Us =>
  Math.round(Math.max(1, signsIn(text) / SIGNS_A_SECOND) * 1e6);

/** Descriptions as cues, each until it is read out or the next begins: what a file of them has (WebVTT's kind *descriptions*). */
export const describedCues = (read: readonly ReadDescription[], filmEndUs: Us): ReadCue[] =>
  read.map(({ filmUs, text }, index) => {
    const nextUs = read[index + 1]?.filmUs ?? filmEndUs;
    const endUs = Math.min(filmUs + readOutUs(text), Math.max(nextUs, filmUs + 1_000));
    return { startUs: filmUs, endUs, text };
  });

/** Least quiet that is a pause to describe in. */
const PAUSE_US = 1_500_000;

/** The next place after a time of a film where nobody speaks for a while: where a description is least in the way; null: none is left. */
export const nextPause = (speech: readonly TimeRange[], filmEndUs: Us, afterUs: Us): Us | null => {
  let quietUs = 0;
  for (const { startUs, endUs } of [...speech, { startUs: filmEndUs, endUs: filmEndUs }]) {
    if (startUs - quietUs >= PAUSE_US && quietUs > afterUs) return quietUs;
    quietUs = Math.max(quietUs, endUs);
  }
  return null;
};
