import * as z from 'zod';
import { assignmentSchema } from '../submission/assignment';
import { submissionSchema } from '../submission/submission';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';
import { shareLinkSchema } from './share-links';

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

const byShareLink = z.object({ shareLinkId: idSchema });

export const SUBMISSIONS = define({
  setAssignment: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/assignment',
    summary: 'What students do when they have watched what is handed out; null: nothing any more.',
    params: byShareLink,
    body: z.object({ assignment: assignmentSchema.nullable() }),
    answer: shareLinkSchema,
  },
  submissions: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/submissions',
    summary: 'What was handed in, and who hasn’t handed anything in.',
    params: byShareLink,
    answer: givenInSchema,
  },
  submissionsFile: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/submissions.csv',
    summary: 'The same as a table (CSV): a line for each student.',
    params: byShareLink,
    file: 'text/csv',
  },
  submissionPicture: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/submissions/:fileId/picture.webp',
    summary: 'What there is to be seen of it at a glance: a picture, or the first page of a PDF.',
    params: byShareLink.extend({ fileId: idSchema }),
    file: 'image/webp',
  },
  submissionFile: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/submissions/:fileId',
    summary:
      'A file that was handed in: a voice or a camera to be played, anything else to be saved. Answers ranges.',
    params: byShareLink.extend({ fileId: idSchema }),
    file: 'application/octet-stream',
  },
});
