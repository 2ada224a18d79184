import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { pictureSizeSchema } from '../destination/size-name';
import { filmLoudnessSchema } from '../sound/levelling';
import { soundFormSchema } from '../destination/sound-form';
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
  /** Captions go along in it. */
  isCaptioned: z.boolean().default(false),
  createdAt: z.string(),
});
export type FilmRow = z.infer<typeof filmRowSchema>;

/** Of at most so many bytes, 100,000 at least. */
const fittedTo = byFilm.extend({ mostBytes: z.string().regex(/^[1-9]\d{5,11}$/) });

/** How it stands with a film that is made small enough for a place. */
export const fitStateSchema = z.object({
  state: z.enum(['none', 'making', 'done', 'failed']),
  /** 0 to 1. */
  done: z.number(),
  /** Of the file; 0 until it is there. */
  bytes: z.number().int(),
  problem: z.string().nullable(),
});
export type FitState = z.infer<typeof fitStateSchema>;

/** What a film will take, by what is there of it already: bytes, of so much film. */
export const madeSoFarSchema = z.object({
  bytes: z.number().int().min(0),
  filmUs: usSchema,
});
export type MadeSoFar = z.infer<typeof madeSoFarSchema>;

/** How large a film gets; `looking`: it is being found out, and can be asked for again. */
export const toldSizeSchema = z.object({ made: madeSoFarSchema.nullable(), looking: z.boolean() });
export type ToldSize = z.infer<typeof toldSizeSchema>;

export const FILMS = define({
  films: {
    method: 'get',
    path: '/api/lessons/:lessonId/films',
    summary: 'Films made of a lesson, newest first, with the progress of those being made.',
    params: byLesson,
    answer: z.array(filmRowSchema),
  },
  madeSoFar: {
    method: 'get',
    path: '/api/lessons/:lessonId/made/:size',
    summary:
      'What the film of a lesson as it is now will take, by what is there of it already; where that is too little to tell, more of it is made for as long as somebody asks.',
    params: byLesson.extend({ size: pictureSizeSchema }),
    answer: toldSizeSchema,
  },
  renderFilm: {
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
  filmLoudness: {
    method: 'get',
    path: '/api/films/:filmId/loudness',
    summary: 'How loud a finished film came out (EBU R 128), and its highest true peak.',
    params: byFilm,
    answer: filmLoudnessSchema,
  },
  makeFilmSound: {
    method: 'post',
    path: '/api/films/:filmId/sound',
    summary: 'Have the sound of a finished film alone made; it answers when it is there.',
    params: byFilm,
    body: z.object({ form: soundFormSchema }),
    answer: z.object({ bytes: z.number().int() }),
  },
  filmSound: {
    method: 'get',
    path: '/api/films/:filmId/sound',
    summary: 'The sound of a finished film alone, with its chapters, named by the lesson’s title.',
    params: byFilm,
    query: z.object({ form: soundFormSchema }),
    file: 'audio/mp4',
  },
  fitFilm: {
    method: 'post',
    path: '/api/films/:filmId/fit/:mostBytes',
    summary:
      'Have a finished film made once more with at most so many bytes. Asked again, it says how far that is.',
    params: fittedTo,
    answer: fitStateSchema,
  },
  fitState: {
    method: 'get',
    path: '/api/films/:filmId/fit/:mostBytes',
    summary: 'How it stands with a film of at most so many bytes.',
    params: fittedTo,
    answer: fitStateSchema,
  },
  fittedFile: {
    method: 'get',
    path: '/api/films/:filmId/fit/:mostBytes/film.mp4',
    summary: 'The MP4 of at most so many bytes, named as the film is.',
    params: fittedTo,
    file: 'video/mp4',
  },
  filmArchive: {
    method: 'get',
    path: '/api/films/:filmId/film.zip',
    summary:
      'A finished film with its sound alone, its words, its cover and the pages of its board, as one archive.',
    params: byFilm,
    file: 'application/zip',
  },
  filmPackage: {
    method: 'get',
    path: '/api/films/:filmId/scorm-1.2.zip',
    summary:
      'A finished film as a package for a course site (SCORM 1.2): its page tells the site how much of it was watched.',
    params: byFilm,
    file: 'application/zip',
  },
  filmCover: {
    method: 'get',
    path: '/api/films/:filmId/cover.jpg',
    summary: 'The still picture that a film is shown by before it plays.',
    params: byFilm,
    file: 'image/jpeg',
  },
  filmFile: {
    method: 'get',
    path: '/api/films/:filmId/file',
    summary: 'The MP4, named by the lesson’s title, class and week.',
    params: byFilm,
    file: 'video/mp4',
  },
});
