import * as z from 'zod';
import { activitySchema } from '../submission/assignment';
import { idSchema } from '../lesson/take';
import { MOST_MATERIALS } from '../material/material';
import { pictureSizeSchema } from '../destination/size-name';
import { byLesson, define, ok } from './endpoint';
import { filmRowSchema } from './films';
import { grantSchema, MOST_GRANTS } from '../hand-out/grant';

/** A moment, ISO 8601 in UTC. */
const momentSchema = z.iso.datetime();

/** A film that has been given under a link. */
export const givenFilmSchema = z.object({
  id: idSchema,
  /** Of the lesson, as it was then. */
  revision: z.number().int(),
  size: pictureSizeSchema,
  filmUs: z.number().int(),
  givenAt: z.string(),
  /** It is the one that is given now. */
  current: z.boolean(),
  /** Replaced, but those who have it open can watch it until then; null: they can't. */
  goesOnUntil: momentSchema.nullable(),
});
export type GivenFilm = z.infer<typeof givenFilmSchema>;

export const handOutSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  /** The unguessable part of the link: 128 bits. Null where the key that it was kept with is gone: the link works, and can't be shown. */
  token: z.string().nullable(),
  film: filmRowSchema,
  /** What has been given under it, newest first; what is in the bin is left out. */
  given: z.array(givenFilmSchema),
  /** Whether it can be watched at this moment. */
  state: z.enum(['open', 'not-yet', 'over', 'taken-back']),
  fromAt: z.string().nullable(),
  untilAt: z.string().nullable(),
  /** Who may watch it, by the names that they have now. */
  watchers: z.array(
    grantSchema.unwrap().extend({
      /** Of the class, or of the student; empty for anyone. */
      name: z.string(),
      /** How many students that is; 0 for anyone. */
      students: z.number().int(),
    }),
  ),
  /** How many students it is for by name, and how many of them have opened it. */
  opened: z.object({ of: z.number().int(), students: z.number().int() }),
  /** Students may save the film, and not only watch it. */
  saves: z.boolean(),
  /** What students do when they have watched it; null: nothing is said. */
  activity: activitySchema.nullable(),
  /** How many have handed something in. */
  handedIn: z.number().int(),
  /** Materials of the lesson that students may save, too. */
  materials: z.array(idSchema),
  createdAt: z.string(),
});
export type HandOut = z.infer<typeof handOutSchema>;

/** A student that a hand-out is for, and when they opened it. */
export const openingSchema = z.object({
  studentId: idSchema,
  name: z.string(),
  /** Null: not yet. */
  firstAt: z.string().nullable(),
  lastAt: z.string().nullable(),
  times: z.number().int(),
});
export type Opening = z.infer<typeof openingSchema>;

const byHandOut = z.object({ handOutId: idSchema });

export const HAND_OUTS = define({
  handOuts: {
    method: 'get',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'The links of a lesson, those that were taken away among them.',
    params: byLesson,
    answer: z.array(handOutSchema),
  },
  handOut: {
    method: 'post',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'Hand the lesson out as it is now: to anyone with the link, if nobody is named.',
    params: byLesson,
    body: z.object({
      size: pictureSizeSchema,
      grants: z.array(grantSchema).min(1).max(MOST_GRANTS).optional(),
    }),
    answer: handOutSchema,
  },
  handOutAgain: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/again',
    summary:
      'Hand the lesson out as it is now under a link that is there. Who is watching goes on with what it was.',
    params: byHandOut,
    body: z.object({ size: pictureSizeSchema }),
    answer: handOutSchema,
  },
  putBack: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/put-back',
    summary: 'Give a film again that was given under the link before.',
    params: byHandOut,
    body: z.object({ givenId: idSchema }),
    answer: handOutSchema,
  },
  endEarlier: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/end-earlier',
    summary:
      'Stop the films that were given under a link before, also for those who have them open.',
    params: byHandOut,
    answer: handOutSchema,
  },
  openHandOut: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/open',
    summary: 'From when, and until when a link can be watched; null: no bound.',
    params: byHandOut,
    body: z
      .object({ fromAt: momentSchema.nullable(), untilAt: momentSchema.nullable() })
      .refine(
        ({ fromAt, untilAt }) => fromAt === null || untilAt === null || fromAt < untilAt,
        'it would be over before it is open',
      ),
    answer: handOutSchema,
  },
  letWatch: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/watchers',
    summary: 'Who may watch it: anyone with the link, classes, students.',
    params: byHandOut,
    body: z.object({ grants: z.array(grantSchema).min(1).max(MOST_GRANTS) }),
    answer: handOutSchema,
  },
  openings: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/openings',
    summary: 'The students that it is for, by name, and when each has opened it.',
    params: byHandOut,
    answer: z.array(openingSchema),
  },
  letSave: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/saves',
    summary: 'Whether students may save the film, and not only watch it.',
    params: byHandOut,
    body: z.object({ saves: z.boolean() }),
    answer: handOutSchema,
  },
  giveMaterials: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/materials',
    summary: 'Which of the lesson’s materials students may save, as they were brought in.',
    params: byHandOut,
    body: z.object({ materials: z.array(idSchema).max(MOST_MATERIALS) }),
    answer: handOutSchema,
  },
  takeBack: {
    method: 'delete',
    path: '/api/hand-outs/:handOutId',
    summary: 'Take a link away. It answers 404 from then on.',
    params: byHandOut,
    answer: ok,
  },
  giveAgain: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/give-again',
    summary: 'Let a link that was taken away be used again, under the same address.',
    params: byHandOut,
    answer: ok,
  },
});
