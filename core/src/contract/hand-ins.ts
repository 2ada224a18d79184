import * as z from 'zod';
import { activitySchema } from '../hand-in/activity';
import { handInSchema } from '../hand-in/hand-in';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';
import { handOutSchema } from './hand-outs';

/** What was handed in under a link, newest first, and who hasn't handed anything in. */
export const givenInSchema = z.object({
  handIns: z.array(
    handInSchema.extend({
      /** Of the student; or what somebody without an address of their own says. */
      name: z.string(),
      /** It is a student of the teacher's. */
      known: z.boolean(),
    }),
  ),
  /** Students whom it is for by name, and of whom nothing has come. */
  missing: z.array(z.string()),
});
export type GivenIn = z.infer<typeof givenInSchema>;

const byHandOut = z.object({ handOutId: idSchema });

export const HAND_INS = define({
  setActivity: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/activity',
    summary: 'What students do when they have watched what is handed out; null: nothing any more.',
    params: byHandOut,
    body: z.object({ activity: activitySchema.nullable() }),
    answer: handOutSchema,
  },
  handIns: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/hand-ins',
    summary: 'What was handed in, and who hasn’t handed anything in.',
    params: byHandOut,
    answer: givenInSchema,
  },
  handInsFile: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/hand-ins.csv',
    summary: 'The same as a table (CSV): a line for each student.',
    params: byHandOut,
    file: 'text/csv',
  },
  handInPicture: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/hand-ins/:fileId/picture.webp',
    summary: 'What there is to be seen of it at a glance: a picture, or the first page of a PDF.',
    params: byHandOut.extend({ fileId: idSchema }),
    file: 'image/webp',
  },
  handInFile: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/hand-ins/:fileId',
    summary:
      'A file that was handed in: a voice or a camera to be played, anything else to be saved. Answers ranges.',
    params: byHandOut.extend({ fileId: idSchema }),
    file: 'application/octet-stream',
  },
});
