import * as z from 'zod';
import {
  fileNameSchema,
  giverSchema,
  submissionFileSchema,
  submissionSchema,
  submissionTextSchema,
  MOST_FILE_BYTES,
  MOST_FILES,
} from '../submission/submission';
import { submissionBySchema } from '../submission/assignment';
import { idSchema } from '../lesson/take';
import { byToken, define, ok, visitorSchema } from './endpoint';

/** Where bytes of files go that are handed in, by the tus 1.0 protocol. */
export const SUBMISSION_UPLOADS_PATH = '/api/submission-uploads';

const byFile = byToken.extend({ fileId: idSchema });

/** What a student's page asks for, apart from the whole API. */
export const WATCH_SUBMISSIONS = define({
  ownSubmission: {
    method: 'get',
    path: '/api/watch/:token/submission',
    summary: 'What was handed in from this address, or on this device, before; null: nothing.',
    params: byToken,
    query: z.object({ visitor: visitorSchema }),
    answer: z.object({ submission: submissionSchema.nullable() }),
    from: 'student',
  },
  submit: {
    method: 'post',
    path: '/api/watch/:token/submission',
    summary: 'Hand something in, in place of what was: what is typed, and files that have come.',
    params: byToken,
    body: z.object({
      visitor: visitorSchema,
      name: giverSchema,
      text: submissionTextSchema,
      files: z.array(idSchema).max(MOST_FILES),
    }),
    answer: submissionSchema,
    from: 'student',
  },
  announceSubmissionFile: {
    method: 'post',
    path: '/api/watch/:token/submission/files',
    summary: 'Say that a file is coming, which is sent to the uploads under its id.',
    params: byToken,
    body: z.object({
      visitor: visitorSchema,
      id: idSchema,
      name: fileNameSchema,
      by: submissionBySchema.exclude(['words']),
      bytes: z.number().int().min(1).max(MOST_FILE_BYTES),
    }),
    answer: ok,
    from: 'student',
  },
  submissionFileCame: {
    method: 'post',
    path: '/api/watch/:token/submission/files/:fileId',
    summary: 'All of a file has been sent: it is looked at, and told what it is.',
    params: byFile,
    body: z.object({ visitor: visitorSchema }),
    answer: submissionFileSchema,
    from: 'student',
  },
});
