import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { answerSchema } from '../interaction/answer';
import { byToken, define, visitorSchema } from './endpoint';
import { versionSchema } from './watch';

/** What is said to an answer. */
export const replySchema = z.object({
  /** Null: it isn't said, or there is no right one. */
  right: z.boolean().nullable(),
  /** The teacher's words to it; empty: none. */
  says: z.string(),
});

/** An answer of one's own, and what was said to it. */
export const ownAnswerSchema = replySchema.extend({
  interactionId: idSchema,
  answer: answerSchema,
});
export type OwnAnswer = z.infer<typeof ownAnswerSchema>;

/** What a student's page asks for, apart from the whole API. */
export const WATCH_ANSWERS = define({
  answerInteraction: {
    method: 'post',
    path: '/api/watch/:token/answers',
    summary: 'Answer a question of the film, or answer it otherwise than before.',
    params: byToken,
    body: z.object({
      version: versionSchema,
      interactionId: idSchema,
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
