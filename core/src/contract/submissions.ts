import * as z from 'zod';
import { activitySchema } from '../submission/assignment';
import { submissionSchema } from '../submission/submission';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';
import { handOutSchema } from './hand-outs';

/** What was handed in under a link, newest first, and who hasn't handed anything in. */
export const givenInSchema = z.object({
  submissions: z.array(
    submissionSchema.extend({
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

export const SUBMISSIONS = define({
  setActivity: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/activity',
    summary: 'What students do when they have watched what is handed out; null: nothing any more.',
    params: byHandOut,
    body: z.object({ activity: activitySchema.nullable() }),
    answer: handOutSchema,
  },
  submissions: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/submissions',
    summary: 'What was handed in, and who hasn’t handed anything in.',
    params: byHandOut,
    answer: givenInSchema,
  },
  submissionsFile: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/submissions.csv',
    summary: 'The same as a table (CSV): a line for each student.',
    params: byHandOut,
    file: 'text/csv',
  },
  submissionPicture: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/submissions/:fileId/picture.webp',
    summary: 'What there is to be seen of it at a glance: a picture, or the first page of a PDF.',
    params: byHandOut.extend({ fileId: idSchema }),
    file: 'image/webp',
  },
  submissionFile: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/submissions/:fileId',
    summary:
      'A file that was handed in: a voice or a camera to be played, anything else to be saved. Answers ranges.',
    params: byHandOut.extend({ fileId: idSchema }),
    file: 'application/octet-stream',
  },
});
