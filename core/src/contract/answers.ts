import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { answerSchema } from '../interaction/answer';
import { askedSchema } from '../interaction/interaction';
import { define } from './endpoint';

/** A question of a film, and what it was answered. */
export const answeredSchema = z.object({
  interactionId: idSchema,
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

const byShareLink = z.object({ shareLinkId: idSchema });

export const ANSWERS = define({
  answers: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/answers',
    summary: 'The questions of what is handed out, and what each was answered.',
    params: byShareLink,
    answer: z.array(answeredSchema),
  },
  answersFile: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/answers.csv',
    summary: 'The same as a table (CSV): a line for each answer.',
    params: byShareLink,
    file: 'text/csv',
  },
});
