import * as z from 'zod';
import { personNameSchema } from '../class/class';
import { idSchema, usSchema } from '../lesson/take';
import { byKey, define } from './endpoint';

/** A film on a student's page. */
const shelfFilmSchema = z.object({
  /** Leads to the film, for this student alone; null before it opens. */
  token: z.string().nullable(),
  title: z.string(),
  filmUs: usSchema,
  /** When it opens, ISO 8601; null: it is open. */
  opensAt: z.string().nullable(),
  /** Until when it can be watched; null: with no end. */
  untilAt: z.string().nullable(),
  /** They have opened it. */
  opened: z.boolean(),
});
export type ShelfFilm = z.infer<typeof shelfFilmSchema>;

const shelfUnitSchema = z.object({
  /** Empty where the films are of no unit. */
  name: z.string(),
  films: z.array(shelfFilmSchema),
});
export type ShelfUnit = z.infer<typeof shelfUnitSchema>;

/** A student's page: their films, by class. */
export const shelfSchema = z.object({
  name: z.string(),
  teacherName: z.string(),
  classes: z.array(
    z.object({
      name: z.string(),
      /** What was handed out last. */
      now: shelfUnitSchema.nullable(),
      units: z.array(shelfUnitSchema),
    }),
  ),
  /** Films for this student, of no class that they are in. */
  own: z.array(shelfFilmSchema),
});
export type Shelf = z.infer<typeof shelfSchema>;

/** Six digits, asked for where an address may be passed on. */
export const numberSchema = z.string().regex(/^\d{6}$/);

const byStudent = z.object({ studentId: idSchema });

/** What a teacher knows of a student's page. */
export const studentPageSchema = z.object({
  studentId: idSchema,
  name: personNameSchema,
  /** The unguessable part of its address; null where the key that it was kept with is gone: it works, and can't be shown. */
  key: z.string().nullable(),
  /** It is taken away, and leads nowhere. */
  away: z.boolean(),
  /** Asked for besides; null: nothing is. */
  number: z.string().nullable(),
});
export type StudentPage = z.infer<typeof studentPageSchema>;

export const STUDENT_PAGES = define({
  studentPages: {
    method: 'post',
    path: '/api/classes/:classId/pages',
    summary: 'The pages of a class’s students, by name; who has none is given one.',
    params: z.object({ classId: idSchema }),
    answer: z.array(studentPageSchema),
  },
  studentPage: {
    method: 'post',
    path: '/api/students/:studentId/page',
    summary: 'A student’s own page; given, if there is none.',
    params: byStudent,
    answer: studentPageSchema,
  },
  renewPage: {
    method: 'post',
    path: '/api/students/:studentId/page/renew',
    summary:
      'Give a student’s page another address. The one that it had leads nowhere from then on.',
    params: byStudent,
    answer: studentPageSchema,
  },
  openPage: {
    method: 'post',
    path: '/api/students/:studentId/page/open',
    summary: 'Take a student’s page away, or give it back under its address.',
    params: byStudent,
    body: z.object({ open: z.boolean() }),
    answer: studentPageSchema,
  },
  askNumber: {
    method: 'post',
    path: '/api/students/:studentId/page/number',
    summary: 'Whether six digits are asked for on a student’s page; they are made anew each time.',
    params: byStudent,
    body: z.object({ asked: z.boolean() }),
    answer: studentPageSchema,
  },
  shelf: {
    method: 'get',
    path: '/api/shelf/:key',
    summary: 'A student’s own page: all that they may watch, by class and unit.',
    params: byKey,
    answer: shelfSchema,
    from: 'person',
  },
  giveNumber: {
    method: 'post',
    path: '/api/shelf/:key/number',
    summary:
      'Tell the number that is asked for on a student’s page; the browser is let in until it is closed.',
    params: byKey,
    body: z.object({ number: numberSchema }),
    answer: shelfSchema,
    from: 'anyone',
  },
});
