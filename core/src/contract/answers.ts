import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { answerSchema } from '../moment/answer';
import { askedSchema } from '../moment/moment';
import { byToken, define } from './endpoint';
import { versionSchema } from './watch';

/** Names somebody without a name, on this link and this device: made when they answer for the first time. */
const visitorSchema = z.string().regex(/^[\w-]{16,40}$/);

/** What is said to an answer. */
export const replySchema = z.object({
  /** Null: it isn't said, or there is no right one. */
  right: z.boolean().nullable(),
  /** The teacher's words to it; empty: none. */
  says: z.string(),
});

/** An answer of one's own, and what was said to it. */
export const ownAnswerSchema = replySchema.extend({ momentId: idSchema, answer: answerSchema });
export type OwnAnswer = z.infer<typeof ownAnswerSchema>;

/** A question of a film, and what it was answered. */
export const answeredSchema = z.object({
  momentId: idSchema,
  /** Where in the film as it is given now; null: it isn't in it any more. */
  filmUs: usSchema.nullable(),
  text: z.string(),
  asked: askedSchema,
  /** Newest first. */
  answers: z.array(
    z.object({
      /** Null: somebody without a name. */
      name: z.string().nullable(),
      answer: answerSchema,
      right: z.boolean().nullable(),
      at: z.string(),
    }),
  ),
});
export type Answered = z.infer<typeof answeredSchema>;

const byHandOut = z.object({ handOutId: idSchema });

export const ANSWERS = define({
  answers: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/answers',
    summary: 'The questions of what is handed out, and what each was answered.',
    params: byHandOut,
    answer: z.array(answeredSchema),
  },
  answersFile: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/answers.csv',
    summary: 'The same as a table (CSV): a line for each answer.',
    params: byHandOut,
    file: 'text/csv',
  },
});

/** What a student's page asks for, apart from the whole API. */
export const WATCH_ANSWERS = define({
  answerMoment: {
    method: 'post',
    path: '/api/watch/:token/answers',
    summary: 'Answer a question of the film, or answer it otherwise than before.',
    params: byToken,
    body: z.object({
      version: versionSchema,
      momentId: idSchema,
      visitor: visitorSchema,
      answer: answerSchema,
    }),
    answer: replySchema,
    from: 'student',
  },
  ownAnswers: {
    method: 'get',
    path: '/api/watch/:token/answers',
    summary:
      'What a student has answered from this address before, where it is an address of their own.',
    params: byToken,
    answer: z.array(ownAnswerSchema),
    from: 'student',
  },
});
