import * as z from 'zod';
import { entrySchema } from '../edit/edit';
import { lessonSchema } from '../lesson/lesson';
import { idSchema, usSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { byLesson, define, ok } from './endpoint';

export const lessonRowSchema = z.object({
  id: idSchema,
  title: z.string(),
  className: z.string(),
  unit: z.string(),
  destinationId: z.string(),
  filmUs: usSchema,
  /** How many takes are in the lesson, and one of them for a picture. */
  takeCount: z.number().int(),
  pictureTakeId: idSchema.nullable(),
  pictureUs: usSchema,
  /** Bytes of footage on the server's disk. */
  bytes: z.number().int(),
  handedOut: z.boolean(),
  updatedAt: z.string(),
  /** A code from the table of errors when the lesson can't be read; it then has no title. */
  problem: z.string().nullable(),
});
export type LessonRow = z.infer<typeof lessonRowSchema>;

export const lessonViewSchema = z.object({
  lesson: lessonSchema,
  canUndo: z.boolean(),
  canRedo: z.boolean(),
});
export type LessonView = z.infer<typeof lessonViewSchema>;

export const newLessonSchema = z.object({
  id: idSchema,
  title: z.string().overwrite(cleanLine).trim().max(140),
});

export const newEntriesSchema = z.object({
  /** The revision that the sender has seen. */
  baseRevision: z.number().int().min(0),
  entries: z.array(entrySchema).min(1).max(200),
  /** Put down even if the same thing was changed in between: the teacher has seen it and chosen. */
  anyway: z.boolean().default(false),
});
export type NewEntries = z.input<typeof newEntriesSchema>;

export const LESSONS = define({
  lessons: {
    method: 'get',
    path: '/api/lessons',
    summary: 'All lessons, last changed first.',
    answer: z.array(lessonRowSchema),
  },
  newLesson: {
    method: 'post',
    path: '/api/lessons',
    summary: 'Begin a lesson. Its id is made by the caller.',
    body: newLessonSchema,
    answer: lessonViewSchema,
  },
  lesson: {
    method: 'get',
    path: '/api/lessons/:lessonId',
    summary: 'A lesson: its decisions and the facts about its takes.',
    params: byLesson,
    answer: lessonViewSchema,
  },
  removeLesson: {
    method: 'delete',
    path: '/api/lessons/:lessonId',
    summary: 'Take a lesson out of the list. Nothing of it is thrown away; its links answer 404.',
    params: byLesson,
    answer: ok,
  },
  bringBackLesson: {
    method: 'post',
    path: '/api/lessons/:lessonId/bring-back',
    summary: 'Put a lesson that was removed back into the list.',
    params: byLesson,
    answer: ok,
  },
  edits: {
    method: 'get',
    path: '/api/lessons/:lessonId/edits',
    summary: 'The list of edits, from the beginning.',
    params: byLesson,
    answer: z.array(z.object({ revision: z.number().int(), entry: entrySchema, at: z.string() })),
  },
  edit: {
    method: 'post',
    path: '/api/lessons/:lessonId/edits',
    summary:
      'Put edits at the end of the list. Answers 409 `changed-elsewhere`, changing nothing, when an edit made since `baseRevision` decides the same thing.',
    params: byLesson,
    body: newEntriesSchema,
    answer: lessonViewSchema,
  },
});
