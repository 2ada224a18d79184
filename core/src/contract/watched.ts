import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { MOST_SECONDS } from '../watched/seconds';
import { byToken, define, ok } from './endpoint';
import { versionSchema } from './watch';

/** Most stretches that are told at once. */
export const MOST_PLAYED_AT_ONCE = 100;

/** Seconds that were played one after the other, from one up to another. */
const playedSchema = z
  .tuple([z.number().int().min(0).max(MOST_SECONDS), z.number().int().min(1).max(MOST_SECONDS)])
  .readonly()
  .refine(([from, to]) => from < to, 'it goes forward');

/** What of a film was played since it was told last. */
export const playedNoteSchema = z.object({
  /** Which film: another may be given under the link by now. */
  version: versionSchema,
  /** Made anew by each page that is opened, and kept nowhere: it follows nobody. */
  visit: z.string().regex(/^[\w-]{16,40}$/),
  /** Counts what a page tells, from 1: what is told again, because its answer was lost, counts once. */
  part: z.number().int().min(1),
  played: z.array(playedSchema).min(1).max(MOST_PLAYED_AT_ONCE).readonly(),
});
export type PlayedNote = z.infer<typeof playedNoteSchema>;

/** How much of a film a student has watched. */
export const watchedByStudentSchema = z.object({
  studentId: idSchema,
  name: z.string(),
  /** Of the film that they watched last; 0 to 1. */
  share: z.number().min(0).max(1),
  /** How far they have come in it, µs; null: they haven't begun. */
  furthestUs: usSchema.nullable(),
  /** Null: never. */
  lastAt: z.string().nullable(),
  /** Opened, so that what is watched could have been counted; null: not. */
  openedAt: z.string().nullable(),
});
export type WatchedByStudent = z.infer<typeof watchedByStudentSchema>;

export const watchedSchema = z.object({
  filmUs: usSchema,
  chapters: z.array(z.object({ title: z.string(), startUs: usSchema, endUs: usSchema })),
  students: z.array(watchedByStudentSchema),
  /** Pages on which it was played by somebody without a name. */
  others: z.number().int(),
  /** For each second of the film that is given now: how many have watched it, and how many more than once. */
  curve: z.object({
    watched: z.array(z.number().int()).readonly(),
    again: z.array(z.number().int()).readonly(),
  }),
  /** After how many days it is forgotten; null: when the link is thrown away. */
  keptDays: z.number().int().nullable(),
});
export type Watched = z.infer<typeof watchedSchema>;

/** For how long it is kept what was watched, days; null: as long as the link. */
export const KEPT_DAYS = [30, 90, 365, null] as const;

const byShareLink = z.object({ shareLinkId: idSchema });

export const WATCHED = define({
  viewing: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/watched',
    summary:
      'Who has watched what is handed out, how much of it, and which of its places how often.',
    params: byShareLink,
    answer: watchedSchema,
  },
  viewingFile: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/watched.csv',
    summary: 'The same as a table (CSV): a line for each student.',
    params: byShareLink,
    file: 'text/csv',
  },
  setViewingRetention: {
    method: 'post',
    path: '/api/watched/retention',
    summary: 'For how many days it is kept what was watched; what is older is forgotten at once.',
    body: z.object({ days: z.literal(KEPT_DAYS) }),
    answer: ok,
  },
});

/** What a student's page tells, apart from the whole API. */
export const WATCH_PLAYED = define({
  notePlayed: {
    method: 'post',
    path: '/api/watch/:token/played',
    summary: 'Tell which seconds of the film were played. Answered when it is kept.',
    params: byToken,
    body: playedNoteSchema,
    answer: ok,
    from: 'student',
  },
});
