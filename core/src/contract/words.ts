import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cueSchema, languageSchema } from '../words/cue';
import { FORMS, type Form } from '../words/given';
import { readWordsSchema } from '../words/read-cue';
import { byLesson, byToken, define } from './endpoint';

/** How captions fit the voice: nothing of it is in the lesson until it is put there. */
export const timingSchema = z.object({
  language: languageSchema,
  /** Those that were heard, at the times at which they were. */
  cues: z.array(cueSchema),
  /** Those that weren't. */
  unsaid: z.array(idSchema),
  /** Where something is said that is in none. */
  unwritten: z.array(z.object({ takeId: idSchema, startUs: usSchema, endUs: usSchema })),
});
export type Timing = z.infer<typeof timingSchema>;

/** What a machine has written down of what is said: to be looked through, and not in the lesson before it is put there. */
export const draftSchema = z.object({
  language: languageSchema,
  /** Empty if the confidence is too low to be of use. */
  cues: z.array(cueSchema),
  /** Certainty of all words together, 0 to 100. */
  confidence: z.number().int(),
  /** Words that it isn't sure of. */
  doubtful: z.number().int(),
  /** Words that are spelled as the course does, and were heard as others. */
  spelled: z.array(z.string()),
});
export type Draft = z.infer<typeof draftSchema>;

/**
 * - `waiting`: another is worked on
 * - `working`: `done` of it, 0 to 1
 * - `done`: `timing` or `draft` is what came of it; it is kept for an hour
 * - `failed`: `problem` says why
 */
export const wordsJobSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  state: z.enum(['waiting', 'working', 'done', 'failed', 'called-off']),
  done: z.number().min(0).max(1),
  /** A code from the table of errors. */
  problem: z.string().nullable(),
  timing: timingSchema.nullable(),
  draft: draftSchema.nullable(),
});
export type WordsJob = z.infer<typeof wordsJobSchema>;

const formSchema = z.enum(Object.keys(FORMS) as [Form, ...Form[]]);
const byJob = z.object({ jobId: idSchema });
const inLanguage = { language: languageSchema, form: formSchema };

export const WORDS = define({
  canListen: {
    method: 'get',
    path: '/api/words/listeners',
    summary:
      'Languages in which this server can put captions in time with a voice, and write a draft of what is said; null: in any.',
    answer: z.object({
      timing: z.array(languageSchema),
      drafts: z.array(languageSchema).nullable(),
    }),
  },
  timeWords: {
    method: 'post',
    path: '/api/lessons/:lessonId/words/timing',
    summary:
      'Listen when the captions of a lesson are said in its film. What comes of it is told, and not put down.',
    params: byLesson,
    body: z.object({ language: languageSchema }),
    answer: wordsJobSchema,
  },
  draftWords: {
    method: 'post',
    path: '/api/lessons/:lessonId/words/draft',
    summary:
      'Have a machine write down what is said in a lesson’s film. What comes of it is told, and not put down.',
    params: byLesson,
    body: z.object({ language: languageSchema }),
    answer: wordsJobSchema,
  },
  wordsJob: {
    method: 'get',
    path: '/api/words/:jobId',
    summary: 'How it stands with listening, and what came of it.',
    params: byJob,
    answer: wordsJobSchema,
  },
  cancelWordsJob: {
    method: 'post',
    path: '/api/words/:jobId/cancel',
    summary: 'Stop listening.',
    params: byJob,
    answer: wordsJobSchema,
  },
  wordsFile: {
    method: 'get',
    path: '/api/lessons/:lessonId/words/:language/:form',
    summary:
      'The words of a lesson’s film as it is now, as WebVTT, SRT, or a transcript in plain text or HTML.',
    params: byLesson.extend(inLanguage),
    file: 'text/plain',
  },
  describedFile: {
    method: 'get',
    path: '/api/lessons/:lessonId/described.vtt',
    summary:
      'What is seen in a lesson’s film as it is now, in words: WebVTT, of the kind *descriptions*.',
    params: byLesson,
    file: 'text/vtt',
  },
});

/** What a student's page asks for, apart from the whole API. */
export const WATCH_WORDS = define({
  watchWords: {
    method: 'get',
    path: '/api/watch/:token/words/:language',
    summary: 'The words of the film that a link leads to, and when they are said.',
    params: byToken.extend({ language: languageSchema }),
    answer: readWordsSchema,
    from: 'student',
  },
  watchWordsFile: {
    method: 'get',
    path: '/api/watch/:token/words/:language/:form',
    summary: 'The same as a file: WebVTT, SRT, or a transcript in plain text or HTML.',
    params: byToken.extend(inLanguage),
    file: 'text/plain',
    from: 'student',
  },
  watchDescribedFile: {
    method: 'get',
    path: '/api/watch/:token/described.vtt',
    summary:
      'What is seen in the film that a link leads to, in words: WebVTT, of the kind *descriptions*.',
    params: byToken,
    file: 'text/vtt',
    from: 'student',
  },
});
