import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { define } from './endpoint';

/** A place at which something is said, or a chapter begins. */
export const transcriptResultSchema = z.object({
  lessonId: idSchema,
  title: z.string(),
  kind: z.enum(['said', 'chapter']),
  language: z.string(),
  text: z.string(),
  /** Where in the film as it is now. */
  filmUs: usSchema,
});
export type TranscriptResult = z.infer<typeof transcriptResultSchema>;

export const TRANSCRIPT_SEARCH = define({
  searchTranscripts: {
    method: 'get',
    path: '/api/transcript-search',
    summary:
      'Places in all lessons where words are said, or are the title of a chapter: all of them, in whatever order; the last may be the beginning of one. The nearest first, fifty at most.',
    query: z.object({ words: z.string().max(200) }),
    answer: z.array(transcriptResultSchema),
  },
});
