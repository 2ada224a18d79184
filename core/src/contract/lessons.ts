import * as z from 'zod';
import { decisionsSchema } from '../edit/decisions';
import { entrySchema } from '../edit/entry';
import { stepsSchema } from '../edit/steps';
import { lessonSchema } from '../lesson/lesson';
import { idSchema, usSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { byLesson, define } from './endpoint';

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
  /** The latest of what can be taken back, and brought back. */
  steps: stepsSchema,
  /** How many of its edits are of kinds that this server doesn't know: they are kept, and do nothing. */
  unknown: z.number().int(),
  /** About how much of each take that is being made ready is made, 0 to 1; none of those that wait for it. */
  making: z.record(idSchema, z.number().min(0).max(1)),
});
export type LessonView = z.infer<typeof lessonViewSchema>;

export const newLessonSchema = z.object({
  id: idSchema,
  title: z.string().overwrite(cleanLine).trim().max(140),
});

/** Steps that are told of a lesson. */
export const MOST_STEPS = 100;

/** Most entries in one request. */
export const MOST_ENTRIES = 200;

export const newEntriesSchema = z.object({
  /** The revision that the sender has seen. */
  baseRevision: z.number().int().min(0),
  entries: z.array(entrySchema).min(1).max(MOST_ENTRIES),
  /** Ids of those that are put down even if something else was decided in between: the teacher has chosen. */
  anyway: z.array(idSchema).max(MOST_ENTRIES).default([]),
});
export type NewEntries = z.input<typeof newEntriesSchema>;

const unknownEntrySchema = z.object({ id: idSchema, unknown: z.literal(true) });
const readEntrySchema = z.union([entrySchema, unknownEntrySchema]);

export const putDownSchema = z.object({
  /** The revision now. */
  revision: z.number().int(),
  /** The entries that have come since `baseRevision`, in order, with those of this request among them. */
  since: z.array(readEntrySchema),
  /** What all comes to now, where that can't be had by laying `since` over what was before: an undo is among it. */
  decisions: decisionsSchema.nullable(),
  steps: stepsSchema,
  unknown: z.number().int(),
  /** Entries that were not put down: another decides the same thing differently. */
  collided: z.array(idSchema),
});
export type PutDown = z.infer<typeof putDownSchema>;

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
  duplicateLesson: {
    method: 'post',
    path: '/api/lessons/:lessonId/duplicate',
    summary: 'A second lesson with the same takes and decisions. Its id is made by the caller.',
    params: byLesson,
    body: z.object({ id: idSchema }),
    answer: lessonViewSchema,
  },
  edits: {
    method: 'get',
    path: '/api/lessons/:lessonId/edits',
    summary: 'The list of edits, from the beginning.',
    params: byLesson,
    answer: z.array(
      z.object({ revision: z.number().int(), entry: readEntrySchema, at: z.string() }),
    ),
  },
  edit: {
    method: 'post',
    path: '/api/lessons/:lessonId/edits',
    summary:
      'Put edits at the end of the list. One whose id is there already is left out; one that decides differently what an edit made since `baseRevision` decided is not put down, and named, with all of its group.',
    params: byLesson,
    body: newEntriesSchema,
    answer: putDownSchema,
  },
});
