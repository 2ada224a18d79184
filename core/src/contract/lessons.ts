import * as z from 'zod';
import { decisionsSchema } from '../edit/decisions';
import { entrySchema } from '../edit/entry';
import { stepsSchema } from '../edit/steps';
import { coverSchema } from '../lesson/cover';
import { lessonSchema } from '../lesson/lesson';
import { planSchema } from '../lesson/plan';
import { idSchema, usSchema } from '../lesson/take';
import { contentSchema, MOST_PAGES } from '../material/material';
import { pageReadingSchema, pictureReadingSchema } from '../picture/reading';
import { cleanLine } from '../text/clean';
import { byLesson, define } from './endpoint';

/** Most lessons that something is done to at a time. */
export const MOST_AT_ONCE = 500;

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
  /** The cover that was chosen; null: none was. */
  cover: coverSchema.nullable().default(null),
  /** The film that is there though nothing of what was recorded is; null: there is footage, or no film. */
  keptFilmId: idSchema.nullable().default(null),
  /** A part of a take of its film is missing. */
  incomplete: z.boolean().default(false),
  /** Bytes of footage on the server's disk. */
  bytes: z.number().int(),
  handedOut: z.boolean(),
  /** In the archive: not in the way, and otherwise as it was. */
  archived: z.boolean().default(false),
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

/** A moment that a cover can show. */
const coverTimeSchema = z.object({ takeId: idSchema, atUs: usSchema, filmUs: usSchema });
export const coverChoicesSchema = z.object({
  /** What is taken where none is chosen. */
  found: coverTimeSchema,
  /** What is proposed, best first. */
  proposed: z.array(coverTimeSchema),
  /** There is as good as nothing to be seen in the cover that it has now. */
  isBlank: z.boolean(),
});
export type CoverChoices = z.infer<typeof coverChoicesSchema>;

/** What is known of the pictures of a lesson's film. */
export const lessonPicturesSchema = z.object({
  tracks: z.array(z.object({ trackId: idSchema, reading: pictureReadingSchema })),
  pages: z.array(
    z.object({ content: contentSchema, page: z.number(), reading: pageReadingSchema }),
  ),
  /** They have been looked through; else more will come. */
  isWhole: z.boolean(),
});
export type LessonPictures = z.infer<typeof lessonPicturesSchema>;

const isTrue = z.enum(['true', 'false']).transform((said) => said === 'true');

export const LESSONS = define({
  coverChoices: {
    method: 'get',
    path: '/api/lessons/:lessonId/covers',
    summary: 'Moments of the film as it is now that its cover may show.',
    params: byLesson,
    answer: coverChoicesSchema,
  },
  lessonPictures: {
    method: 'get',
    path: '/api/lessons/:lessonId/pictures',
    summary:
      'What can be read in the pictures of the film as it is now, and where they aren’t as they were meant; as far as they have been looked through. Asked for, pages are read.',
    params: byLesson,
    answer: lessonPicturesSchema,
  },
  coverPicture: {
    method: 'get',
    path: '/api/lessons/:lessonId/cover.jpg',
    summary:
      'The cover that the film as it is now would have: with a moment, with a page that was brought in, or as found; 320 or 1280 px wide.',
    params: byLesson,
    query: z.object({
      takeId: idSchema.optional(),
      atUs: z.coerce.number().pipe(usSchema).default(0),
      content: contentSchema.optional(),
      page: z.coerce
        .number()
        .int()
        .min(0)
        .max(MOST_PAGES - 1)
        .default(0),
      aspect: z.coerce.number().min(0.01).max(100).default(1),
      titled: isTrue.default(false),
      size: z.enum(['small', 'large']).default('small'),
      /** Names what else it depends on, so that a picture that is held isn't shown after another. */
      changed: z.string().max(40).optional(),
    }),
    file: 'image/jpeg',
  },
  lessons: {
    method: 'get',
    path: '/api/lessons',
    summary: 'All lessons, last changed first.',
    answer: z.array(lessonRowSchema),
  },
  moveLessons: {
    method: 'post',
    path: '/api/move-lessons',
    summary:
      'Say of several lessons which class and unit they are of. Each is told by itself: what can’t be moved keeps no other from it.',
    body: z.object({
      moves: z
        .array(
          z.object({
            lessonId: idSchema,
            className: planSchema.unwrap().shape.className,
            unit: planSchema.unwrap().shape.unit,
          }),
        )
        .min(1)
        .max(MOST_AT_ONCE),
    }),
    answer: z.object({ moved: z.array(idSchema) }),
  },
  archiveLessons: {
    method: 'post',
    path: '/api/archive-lessons',
    summary:
      'Put lessons into the archive, or take them out of it: they are not in the way there, and all else is as before, their links too.',
    body: z.object({
      lessonIds: z.array(idSchema).min(1).max(MOST_AT_ONCE),
      archived: z.boolean(),
    }),
    answer: z.object({ changed: z.array(idSchema) }),
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
