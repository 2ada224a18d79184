import * as z from 'zod';
import {
  fileNameSchema,
  giverSchema,
  handInFileSchema,
  handInSchema,
  handInTextSchema,
  MOST_FILE_BYTES,
  MOST_FILES,
} from '../hand-in/hand-in';
import { handInBySchema } from '../hand-in/activity';
import { idSchema } from '../lesson/take';
import { byToken, define, ok, visitorSchema } from './endpoint';

/** Where bytes of files go that are handed in, by the tus 1.0 protocol. */
export const HAND_IN_UPLOADS_PATH = '/api/hand-in-uploads';

const byFile = byToken.extend({ fileId: idSchema });

/** What a student's page asks for, apart from the whole API. */
export const WATCH_HAND_INS = define({
  ownHandIn: {
    method: 'get',
    path: '/api/watch/:token/hand-in',
    summary: 'What was handed in from this address, or on this device, before; null: nothing.',
    params: byToken,
    query: z.object({ visitor: visitorSchema }),
    answer: z.object({ handIn: handInSchema.nullable() }),
    from: 'student',
  },
  handIn: {
    method: 'post',
    path: '/api/watch/:token/hand-in',
    summary: 'Hand something in, in place of what was: what is typed, and files that have come.',
    params: byToken,
    body: z.object({
      visitor: visitorSchema,
      name: giverSchema,
      text: handInTextSchema,
      files: z.array(idSchema).max(MOST_FILES),
    }),
    answer: handInSchema,
    from: 'student',
  },
  bringHandInFile: {
    method: 'post',
    path: '/api/watch/:token/hand-in/files',
    summary: 'Say that a file is coming, which is sent to the uploads under its id.',
    params: byToken,
    body: z.object({
      visitor: visitorSchema,
      id: idSchema,
      name: fileNameSchema,
      by: handInBySchema.exclude(['words']),
      bytes: z.number().int().min(1).max(MOST_FILE_BYTES),
    }),
    answer: ok,
    from: 'student',
  },
  handInFileCame: {
    method: 'post',
    path: '/api/watch/:token/hand-in/files/:fileId',
    summary: 'All of a file has been sent: it is looked at, and told what it is.',
    params: byFile,
    body: z.object({ visitor: visitorSchema }),
    answer: handInFileSchema,
    from: 'student',
  },
});
