import * as z from 'zod';
import { personNameSchema } from '../class/class';
import { idSchema, usSchema } from '../lesson/take';
import { byKey, define } from './endpoint';

/** A film on a student's page. */
const pageContentFilmSchema = z.object({
  /** Leads to the film, for this student alone; null before it opens. */
  token: z.string().nullable(),
  title: z.string(),
  filmUs: usSchema,
  /** When it opens, ISO 8601; null: it is open. */
  opensAt: z.string().nullable(),
  /** Until when it can be watched; null: with no end. */
  availableUntil: z.string().nullable(),
  /** They have opened it; on a class's page nobody knows: null. */
  opened: z.boolean().nullable(),
  /** What is to be done when it has been watched; null: nothing. */
  todo: z
    .object({
      /** By when, ISO 8601; null: there is no date. */
      dueAt: z.string().nullable(),
      /** Something is to be handed in. */
      handsIn: z.boolean(),
      /** It has been; on a class's page nobody knows: null. */
      done: z.boolean().nullable(),
    })
    .nullable(),
  /** When it was put up, ISO 8601. */
  upAt: z.string(),
});
export type PageFilm = z.infer<typeof pageContentFilmSchema>;

const pageContentUnitSchema = z.object({
  /** Empty where the films are of no unit. */
  name: z.string(),
  films: z.array(pageContentFilmSchema),
});
export type PageUnit = z.infer<typeof pageContentUnitSchema>;

/** A page of films: a student's, by class; or a class's. */
export const pageContentSchema = z.object({
  of: z.enum(['student', 'class']),
  /** Of the student, or of the class. */
  name: z.string(),
  teacherName: z.string(),
  classes: z.array(
    z.object({
      name: z.string(),
      /** What was handed out last. */
      now: pageContentUnitSchema.nullable(),
      units: z.array(pageContentUnitSchema),
    }),
  ),
  /** Films for this student, of no class that they are in. */
  own: z.array(pageContentFilmSchema),
});
export type PageContent = z.infer<typeof pageContentSchema>;

/** Six digits, asked for where an address may be passed on. */
export const pinSchema = z.string().regex(/^\d{6}$/);

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
  pin: z.string().nullable(),
});
export type StudentPage = z.infer<typeof studentPageSchema>;

const byClass = z.object({ classId: idSchema });

/** What a teacher knows of a class's page. */
export const classPageSchema = z.object({
  classId: idSchema,
  /** As of a student's. */
  key: z.string().nullable(),
  away: z.boolean(),
});
export type ClassPage = z.infer<typeof classPageSchema>;

export const STUDENT_PAGES = define({
  studentPages: {
    method: 'post',
    path: '/api/classes/:classId/pages',
    summary: 'The pages of a class’s students, by name; who has none is given one.',
    params: byClass,
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
  askPin: {
    method: 'post',
    path: '/api/students/:studentId/page/pin',
    summary: 'Whether six digits are asked for on a student’s page; they are made anew each time.',
    params: byStudent,
    body: z.object({ asked: z.boolean() }),
    answer: studentPageSchema,
  },
  classPage: {
    method: 'post',
    path: '/api/classes/:classId/page',
    summary:
      'A class’s page, for a course’s site: whoever has its address may watch what is for the class. Given, if there is none.',
    params: byClass,
    answer: classPageSchema,
  },
  renewClassPage: {
    method: 'post',
    path: '/api/classes/:classId/page/renew',
    summary: 'Give a class’s page another address. The one that it had leads nowhere from then on.',
    params: byClass,
    answer: classPageSchema,
  },
  openClassPage: {
    method: 'post',
    path: '/api/classes/:classId/page/open',
    summary: 'Take a class’s page away, or give it back under its address.',
    params: byClass,
    body: z.object({ open: z.boolean() }),
    answer: classPageSchema,
  },
  pageContentFeed: {
    method: 'get',
    path: '/api/page/:key/feed.:form',
    summary:
      'What is on a page, newest first, for programs that look for what is new (Atom, JSON Feed).',
    params: byKey.extend({ form: z.enum(['atom', 'json']) }),
    file: 'application/atom+xml',
    from: 'person',
  },
  pageContent: {
    method: 'get',
    path: '/api/page/:key',
    summary:
      'A student’s own page, or a class’s: all that may be watched there, by class and unit.',
    params: byKey,
    answer: pageContentSchema,
    from: 'person',
  },
  givePin: {
    method: 'post',
    path: '/api/page/:key/pin',
    summary:
      'Give the PIN that is asked for on a student’s page; the browser is let in until it is closed.',
    params: byKey,
    body: z.object({ pin: pinSchema }),
    answer: pageContentSchema,
    from: 'anyone',
  },
});
