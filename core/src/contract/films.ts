import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { pictureSizeSchema } from '../destination/size-name';
import { byFilm, byLesson, define } from './endpoint';

export const filmStateSchema = z.enum(['waiting', 'making', 'done', 'failed', 'cancelled']);
export const filmRowSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  revision: z.number().int(),
  size: pictureSizeSchema,
  state: filmStateSchema,
  /** 0 to 1. */
  done: z.number(),
  /** What is being done, in words. */
  doing: z.string(),
  /** Time left, µs; null while it isn't known. */
  leftUs: z.number().int().nullable(),
  problem: z.string().nullable(),
  /** The part of the problem only this film has, for the curious. */
  problemDetail: z.string().nullable(),
  bytes: z.number().int(),
  filmUs: usSchema,
  fileName: z.string(),
  createdAt: z.string(),
});
export type FilmRow = z.infer<typeof filmRowSchema>;

export const FILMS = define({
  films: {
    method: 'get',
    path: '/api/lessons/:lessonId/films',
    summary: 'Films made of a lesson, newest first, with the progress of those being made.',
    params: byLesson,
    answer: z.array(filmRowSchema),
  },
  makeFilm: {
    method: 'post',
    path: '/api/lessons/:lessonId/films',
    summary: 'Make a film of the lesson as it is now. The same film is not made twice.',
    params: byLesson,
    body: z.object({ size: pictureSizeSchema }),
    answer: filmRowSchema,
  },
  cancelFilm: {
    method: 'post',
    path: '/api/films/:filmId/cancel',
    summary: 'Stop making a film.',
    params: byFilm,
    answer: filmRowSchema,
  },
  retryFilm: {
    method: 'post',
    path: '/api/films/:filmId/retry',
    summary: 'Try again to make a film that failed or was cancelled.',
    params: byFilm,
    answer: filmRowSchema,
  },
  filmFile: {
    method: 'get',
    path: '/api/films/:filmId/file',
    summary: 'The MP4, named by the lesson’s title.',
    params: byFilm,
    file: 'video/mp4',
  },
});
