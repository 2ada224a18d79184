import * as z from 'zod';
import { usSchema } from '../lesson/take';
import type { FilmCue } from './film-cues';
import { captionLines } from './lines';

/** A cue as it leaves the house: words and times of the film, and nothing of where they come from. */
export const readCueSchema = z
  .object({ startUs: usSchema, endUs: usSchema, text: z.string() })
  .readonly();
export type ReadCue = z.infer<typeof readCueSchema>;

/** Words of a film in one language. */
export const readWordsSchema = z
  .object({ language: z.string(), cues: z.array(readCueSchema).readonly() })
  .readonly();
export type ReadWords = z.infer<typeof readWordsSchema>;

/** The cues of a film as they are given to others: in the lines that they are shown in. */
export const readCuesOf = (cues: readonly FilmCue[]): ReadCue[] =>
  cues.map(({ startUs, endUs, text }) => ({
    startUs,
    endUs,
    text: captionLines(text).join('\n'),
  }));
