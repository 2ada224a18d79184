import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { byLesson, define } from './endpoint';

/**
 * - `coming`: its bytes are on their way
 * - `opening`: they are here, and are looked through; nothing of it is in a lesson yet
 * - `in`: it is the lesson `lessonId`; its takes are being made ready
 * - `refused`: `problem` says why, and nothing of it is here
 */
export const lessonImportSchema = z.object({
  id: idSchema,
  state: z.enum(['coming', 'opening', 'in', 'refused']),
  lessonId: idSchema.nullable(),
  /** A code from the table of errors. */
  problem: z.string().nullable(),
  /** How much of it is looked through, 0 to 1. */
  done: z.number().min(0).max(1),
});
export type LessonImport = z.infer<typeof lessonImportSchema>;

const byBundle = z.object({ importId: idSchema });

export const LESSON_ARCHIVES = define({
  lessonArchive: {
    method: 'get',
    path: '/api/lessons/:lessonId/archive.zip',
    summary:
      'All of a lesson as one archive: its document, footage, what was written, materials, and the cut list for other programs.',
    params: byLesson,
    file: 'application/zip',
  },
  openTimeline: {
    method: 'get',
    path: '/api/lessons/:lessonId/timeline.otio',
    summary: 'The cut list of a lesson’s film, as OpenTimelineIO.',
    params: byLesson,
    file: 'application/json',
  },
  newLessonImport: {
    method: 'post',
    path: '/api/lesson-archives',
    summary:
      'Bring an archive of a lesson in. Its bytes then come by tus 1.0 to /api/uploads with its id as `trackId`.',
    body: z.object({ id: idSchema }),
    answer: lessonImportSchema,
  },
  importLesson: {
    method: 'post',
    path: '/api/lesson-archives/:importId/open',
    summary: 'All bytes of an archive have been sent: look through it, and make a lesson of it.',
    params: byBundle,
    answer: lessonImportSchema,
  },
  lessonImport: {
    method: 'get',
    path: '/api/lesson-archives/:importId',
    summary: 'How it stands with an archive that is brought in.',
    params: byBundle,
    answer: lessonImportSchema,
  },
});
