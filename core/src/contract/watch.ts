import * as z from 'zod';
import { usSchema } from '../lesson/take';
import { byToken, define } from './endpoint';
import { filmStateSchema } from './films';

export const watchSchema = z.object({
  title: z.string(),
  description: z.string(),
  teacherName: z.string(),
  filmUs: usSchema,
  /** Parts of the film about one point each, to jump to. */
  chapters: z.array(z.object({ title: z.string(), startUs: usSchema, endUs: usSchema })),
  /** Pages of the board that can be kept, as PDF; 0: there are none. */
  notePages: z.number().int().default(0),
  /** Languages that there are captions in, the spoken one first. */
  languages: z.array(z.string()).default([]),
  state: filmStateSchema,
  done: z.number(),
});
export type Watch = z.infer<typeof watchSchema>;

export const WATCH = define({
  watch: {
    method: 'get',
    path: '/api/watch/:token',
    summary: 'What a student sees beside the film.',
    params: byToken,
    answer: watchSchema,
    from: 'student',
  },
  watchFilm: {
    method: 'get',
    path: '/api/watch/:token/film.mp4',
    summary: 'The film a student watches. Answers ranges.',
    params: byToken,
    file: 'video/mp4',
    from: 'student',
  },
  watchCover: {
    method: 'get',
    path: '/api/watch/:token/cover.jpg',
    summary: 'The still picture shown before play.',
    params: byToken,
    file: 'image/jpeg',
    from: 'student',
  },
});
