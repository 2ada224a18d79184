import * as z from 'zod';
import { usSchema } from '../lesson/take';
import { byLesson, byTake, byToken, define } from './endpoint';

/** A page of the board, as students can keep it. */
export const notesPageSchema = z.object({
  strokes: z.number().int(),
  /** The words on it. */
  says: z.string(),
  /** When it is turned to, film times. */
  shownUs: z.array(usSchema),
});
export type NotesPageRow = z.infer<typeof notesPageSchema>;

export const NOTES = define({
  notes: {
    method: 'get',
    path: '/api/lessons/:lessonId/notes',
    summary: 'The pages of the boards that a lesson’s film shows, as they are left.',
    params: byLesson,
    answer: z.array(notesPageSchema),
  },
  notesPdf: {
    method: 'get',
    path: '/api/lessons/:lessonId/notes.pdf',
    summary: 'These pages as PDF: vectors, and words as text.',
    params: byLesson,
    file: 'application/pdf',
  },
  notesSvg: {
    method: 'get',
    path: '/api/lessons/:lessonId/notes/:page/page.svg',
    summary: 'One of these pages, from 1, as SVG.',
    params: byLesson.extend({ page: z.coerce.number().int().min(1).max(10_000) }),
    file: 'image/svg+xml',
  },
  inkml: {
    method: 'get',
    path: '/api/lessons/:lessonId/takes/:takeId/ink.inkml',
    summary: 'What is written on a take, as InkML (W3C), with its times.',
    params: byLesson.extend(byTake.shape),
    file: 'application/inkml+xml',
  },
});

/** What a student can keep of a lesson; on a student's page. */
export const WATCH_NOTES = define({
  watchNotes: {
    method: 'get',
    path: '/api/watch/:token/notes.pdf',
    summary:
      'The pages of the board as they are left, as PDF, with links to when each is discussed.',
    params: byToken,
    file: 'application/pdf',
    from: 'student',
  },
});
