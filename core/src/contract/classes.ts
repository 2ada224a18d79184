import * as z from 'zod';
import {
  addressSchema,
  classSchema,
  MOST_IN_CLASS,
  MOST_UNIT_LESSONS,
  personNameSchema,
  studentSchema,
} from '../class/class';
import { idSchema } from '../lesson/take';
import { define, ok } from './endpoint';

const byClass = z.object({ classId: idSchema });
const byStudent = z.object({ studentId: idSchema });
const inUnit = byClass.extend({ unitId: idSchema });
const inClass = z.object({ classId: idSchema, studentId: idSchema });

/** A class in the list of them. */
export const classRowSchema = classSchema.unwrap().extend({
  students: z.number().int(),
  /** Lessons that name it as theirs. */
  lessons: z.number().int(),
});
export type ClassRow = z.infer<typeof classRowSchema>;

/** A class with who is in it, by name. */
export const classViewSchema = classSchema.unwrap().extend({
  students: z.array(
    studentSchema.unwrap().extend({
      /** Names of the other classes that the student is in. */
      alsoIn: z.array(z.string()),
    }),
  ),
});
export type ClassView = z.infer<typeof classViewSchema>;

/** A student to be. */
const comingSchema = z.object({ name: personNameSchema, address: addressSchema });

/** What came of bringing students in. */
export const enrolledSchema = z.object({
  view: classViewSchema,
  /** How many are new in the class; the others were in it already. */
  added: z.number().int(),
});

/** Films of a unit that a class may watch now. */
export const unitFilmsSchema = z.object({
  ready: z.number().int(),
  /** Still being made. */
  waiting: z.number().int(),
});
export type UnitFilms = z.infer<typeof unitFilmsSchema>;

export const CLASSES = define({
  classes: {
    method: 'get',
    path: '/api/classes',
    summary: 'Classes, in the order in which they were made.',
    answer: z.array(classRowSchema),
  },
  setClass: {
    method: 'post',
    path: '/api/classes',
    summary: 'Make a class, or change the name and the units of the one with its id.',
    body: classSchema,
    answer: classViewSchema,
  },
  class: {
    method: 'get',
    path: '/api/classes/:classId',
    summary: 'A class with its units, and its students by name.',
    params: byClass,
    answer: classViewSchema,
  },
  unitFilms: {
    method: 'get',
    path: '/api/classes/:classId/units/:unitId',
    summary: 'How many films of a unit the class may watch now: made, and still being made.',
    params: inUnit,
    answer: unitFilmsSchema,
  },
  unitOrder: {
    method: 'get',
    path: '/api/classes/:classId/units/:unitId/order',
    summary:
      'The lessons of a unit that were handed out to the class, as their films stand on its pages.',
    params: inUnit,
    answer: z.array(z.object({ lessonId: idSchema, title: z.string() })),
  },
  orderUnit: {
    method: 'post',
    path: '/api/classes/:classId/units/:unitId/order',
    summary:
      'Put the films of a unit into an order; what isn’t named stands after, as it was put up.',
    params: inUnit,
    body: z.object({ lessons: z.array(idSchema).max(MOST_UNIT_LESSONS) }),
    answer: classViewSchema,
  },
  unitArchive: {
    method: 'get',
    path: '/api/classes/:classId/units/:unitId/films.zip',
    summary:
      'The films of a unit that the class may watch now, as pages with captions, transcripts and pages of the board, that need nothing from elsewhere.',
    params: inUnit,
    file: 'application/zip',
  },
  unitCartridge: {
    method: 'get',
    path: '/api/classes/:classId/units/:unitId/films.imscc',
    summary:
      'The films of a unit that the class may watch now, as a Common Cartridge 1.3: what a course site makes pages of its own of.',
    params: inUnit,
    file: 'application/zip',
  },
  deleteClass: {
    method: 'post',
    path: '/api/classes/:classId/delete',
    summary:
      'Take a class away. For 30 days it can be brought back with its students; then those who are in no other are erased with it.',
    params: byClass,
    answer: ok,
  },
  restoreClass: {
    method: 'post',
    path: '/api/classes/:classId/restore',
    summary: 'Bring back a class that was taken away, with its students.',
    params: byClass,
    answer: classViewSchema,
  },
  enrol: {
    method: 'post',
    path: '/api/classes/:classId/students',
    summary:
      'Bring students into a class. Who is known by the address, or without one by the name, is the same student; nobody is in a class twice.',
    params: byClass,
    body: z.object({ students: z.array(comingSchema).min(1).max(MOST_IN_CLASS) }),
    answer: enrolledSchema,
  },
  changeStudent: {
    method: 'post',
    path: '/api/students/:studentId',
    summary: 'Change a student’s name or address, in all classes.',
    params: byStudent,
    body: comingSchema,
    answer: ok,
  },
  leaveClass: {
    method: 'post',
    path: '/api/classes/:classId/students/:studentId/leave',
    summary: 'Take a student out of a class. Who is in no class any more is erased after 30 days.',
    params: inClass,
    answer: ok,
  },
  joinClass: {
    method: 'post',
    path: '/api/classes/:classId/students/:studentId/join',
    summary: 'Bring a student that is known into a class, or back into it.',
    params: inClass,
    answer: ok,
  },
  eraseStudent: {
    method: 'post',
    path: '/api/students/:studentId/erase',
    summary: 'Erase a student and all that is known of them, in all classes. There is no way back.',
    params: byStudent,
    answer: ok,
  },
});
