import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { byLesson, define, ok } from './endpoint';

const bytesSchema = z.number().int().min(0);

/** What a lesson takes up on the server's disk. */
export const lessonStorageSchema = z.object({
  id: idSchema,
  title: z.string(),
  className: z.string(),
  /** What was recorded and brought in as takes, as it came and as it is kept. */
  footageBytes: bytesSchema,
  /** Films made of it, their sound alone, and the same for slow lines. */
  filmBytes: bytesSchema,
  /** Of all that, what can be made again of the rest at any time: files at no link, voices without their room. */
  spareBytes: bytesSchema,
  /** A film of it is finished: it can be kept without the footage. */
  hasFilm: z.boolean(),
});
export type LessonStorage = z.infer<typeof lessonStorageSchema>;

export const storageUsedSchema = z.object({
  /** Those that take up most first. */
  lessons: z.array(lessonStorageSchema),
  /** Pieces of films, pictures of pages and of moments: made again when they are needed. */
  cacheBytes: bytesSchema,
  materialBytes: bytesSchema,
  /** What students have handed in. */
  submissionBytes: bytesSchema,
  freeBytes: bytesSchema,
});
export type StorageUsed = z.infer<typeof storageUsedSchema>;

export const STORAGE = define({
  storageUsed: {
    method: 'get',
    path: '/api/storage/used',
    summary: 'What takes up how much of the server’s disk.',
    answer: storageUsedSchema,
  },
  keepUsedFootage: {
    method: 'post',
    path: '/api/lessons/:lessonId/keep-used-footage',
    summary:
      'Remove what can be made again of the rest of a lesson: films at no link, voices without their room.',
    params: byLesson,
    answer: ok,
  },
  keepFilmOnly: {
    method: 'post',
    path: '/api/lessons/:lessonId/keep-film-only',
    summary:
      'Put all takes of a lesson into the bin. Its films and links stay; until the takes go for good they can be brought back. Refused where no film is finished, or another lesson shows a take too.',
    params: byLesson,
    answer: ok,
  },
  emptyCache: {
    method: 'post',
    path: '/api/storage/empty-cache',
    summary: 'Remove what is only held to be quick. Refused while a film is being made of it.',
    answer: ok,
  },
});
