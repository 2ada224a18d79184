import * as z from 'zod';
import { assignmentSchema } from '../submission/assignment';
import { idSchema } from '../lesson/take';
import { MOST_MATERIALS } from '../material/material';
import { pictureSizeSchema } from '../destination/size-name';
import { byLesson, define, ok } from './endpoint';
import { filmRowSchema } from './films';
import { grantSchema, MOST_GRANTS } from '../share-link/grant';

/** A moment, ISO 8601 in UTC. */
const momentSchema = z.iso.datetime();

/** A film that has been given under a link. */
export const linkVersionSchema = z.object({
  id: idSchema,
  /** Of the lesson, as it was then. */
  revision: z.number().int(),
  size: pictureSizeSchema,
  filmUs: z.number().int(),
  publishedAt: z.string(),
  /** It is the one that is given now. */
  current: z.boolean(),
  /** Replaced, but those who have it open can watch it until then; null: they can't. */
  goesOnUntil: momentSchema.nullable(),
});
export type LinkVersion = z.infer<typeof linkVersionSchema>;

export const shareLinkSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  /** The unguessable part of the link: 128 bits. Null where the key that it was kept with is gone: the link works, and can't be shown. */
  token: z.string().nullable(),
  film: filmRowSchema,
  /** What has been given under it, newest first; what is in the bin is left out. */
  given: z.array(linkVersionSchema),
  /** Whether it can be watched at this moment. */
  state: z.enum(['open', 'not-yet', 'over', 'revoked']),
  availableFrom: z.string().nullable(),
  availableUntil: z.string().nullable(),
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
  downloads: z.boolean(),
  /** What students do when they have watched it; null: nothing is said. */
  assignment: assignmentSchema.nullable(),
  /** How many have handed something in. */
  handedIn: z.number().int(),
  /** Materials of the lesson that students may save, too. */
  materials: z.array(idSchema),
  createdAt: z.string(),
});
export type ShareLink = z.infer<typeof shareLinkSchema>;

/** A student that a link is for, and when they opened it. */
export const viewerSchema = z.object({
  studentId: idSchema,
  name: z.string(),
  /** Null: not yet. */
  firstAt: z.string().nullable(),
  lastAt: z.string().nullable(),
  times: z.number().int(),
});
export type Viewer = z.infer<typeof viewerSchema>;

const byShareLink = z.object({ shareLinkId: idSchema });

export const SHARE_LINKS = define({
  shareLinks: {
    method: 'get',
    path: '/api/lessons/:lessonId/share-links',
    summary: 'The links of a lesson, those that were taken away among them.',
    params: byLesson,
    answer: z.array(shareLinkSchema),
  },
  createShareLink: {
    method: 'post',
    path: '/api/lessons/:lessonId/share-links',
    summary: 'Hand the lesson out as it is now: to anyone with the link, if nobody is named.',
    params: byLesson,
    body: z.object({
      size: pictureSizeSchema,
      grants: z.array(grantSchema).min(1).max(MOST_GRANTS).optional(),
    }),
    answer: shareLinkSchema,
  },
  publishVersion: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/versions',
    summary:
      'Hand the lesson out as it is now under a link that is there. Who is watching goes on with what it was.',
    params: byShareLink,
    body: z.object({ size: pictureSizeSchema }),
    answer: shareLinkSchema,
  },
  restoreVersion: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/restore-version',
    summary: 'Give a film again that was given under the link before.',
    params: byShareLink,
    body: z.object({ givenId: idSchema }),
    answer: shareLinkSchema,
  },
  endEarlier: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/end-earlier',
    summary:
      'Stop the films that were given under a link before, also for those who have them open.',
    params: byShareLink,
    answer: shareLinkSchema,
  },
  createOpenShareLink: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/open',
    summary: 'From when, and until when a link can be watched; null: no bound.',
    params: byShareLink,
    body: z
      .object({ availableFrom: momentSchema.nullable(), availableUntil: momentSchema.nullable() })
      .refine(
        ({ availableFrom, availableUntil }) =>
          availableFrom === null || availableUntil === null || availableFrom < availableUntil,
        'it would be over before it is open',
      ),
    answer: shareLinkSchema,
  },
  setAudience: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/audience',
    summary: 'Who may watch it: anyone with the link, classes, students.',
    params: byShareLink,
    body: z.object({ grants: z.array(grantSchema).min(1).max(MOST_GRANTS) }),
    answer: shareLinkSchema,
  },
  viewers: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/viewers',
    summary: 'The students that it is for, by name, and when each has opened it.',
    params: byShareLink,
    answer: z.array(viewerSchema),
  },
  setDownloads: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/downloads',
    summary: 'Whether students may save the film, and not only watch it.',
    params: byShareLink,
    body: z.object({ downloads: z.boolean() }),
    answer: shareLinkSchema,
  },
  setAttachments: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/materials',
    summary: 'Which of the lesson’s materials students may save, as they were brought in.',
    params: byShareLink,
    body: z.object({ materials: z.array(idSchema).max(MOST_MATERIALS) }),
    answer: shareLinkSchema,
  },
  revokeShareLink: {
    method: 'delete',
    path: '/api/share-links/:shareLinkId',
    summary: 'Take a link away. It answers 404 from then on.',
    params: byShareLink,
    answer: ok,
  },
  restoreShareLink: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/restore',
    summary: 'Let a link that was taken away be used again, under the same address.',
    params: byShareLink,
    answer: ok,
  },
});
