import * as z from 'zod';
import { entrySchema } from '../edit/edit';
import { lessonSchema } from '../lesson/lesson';
import { idSchema, takeSchema, takeSourceSchema, trackKindSchema, usSchema } from '../lesson/take';
import { destinationIdSchema, destinationSchema, placesSchema } from '../place/destination';
import { cleanLine } from '../text/clean';
import { pictureSizeSchema } from '../place/size-name';

export const sessionSchema = z.object({
  signedIn: z.boolean(),
  /** Whether a passphrase has been set. */
  setUp: z.boolean(),
  demo: z.boolean(),
  teacherName: z.string(),
});
export type Session = z.infer<typeof sessionSchema>;

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

export const newTakeSchema = z.object({
  id: idSchema,
  source: takeSourceSchema,
  practice: z.boolean(),
  tracks: z
    .array(z.object({ id: idSchema, kind: trackKindSchema }))
    .min(1)
    .max(4)
    .refine((tracks) => {
      const ids = tracks.map(({ id }) => id);
      const kinds = tracks.map(({ kind }) => kind);
      return new Set(ids).size === ids.length && new Set(kinds).size === kinds.length;
    }, 'one track of each kind, each with an identifier of its own'),
});
export type NewTake = z.infer<typeof newTakeSchema>;

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
  createdAt: z.string(),
});
export type FilmRow = z.infer<typeof filmRowSchema>;

export const handOutSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  /** The unguessable part of the link: 128 bits. */
  token: z.string(),
  film: filmRowSchema,
  createdAt: z.string(),
});
export type HandOut = z.infer<typeof handOutSchema>;

export const watchSchema = z.object({
  title: z.string(),
  description: z.string(),
  teacherName: z.string(),
  filmUs: usSchema,
  /** Parts of the film about one point each, to jump to. */
  chapters: z.array(z.object({ title: z.string(), startUs: usSchema, endUs: usSchema })),
  state: filmStateSchema,
  done: z.number(),
});
export type Watch = z.infer<typeof watchSchema>;

/** One call of the API. The server's routes, the app's client and the OpenAPI page are all made from these. */
export interface Endpoint {
  readonly method: 'get' | 'post' | 'delete';
  /** Path with `:name` for its parameters. */
  readonly path: string;
  readonly summary: string;
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Absent where the answer is a file, whose type is then in `file`. */
  readonly answer?: z.ZodType;
  readonly file?: string;
  /** Open to those who are not signed in. */
  readonly open?: boolean;
}

const define = <T extends Record<string, Endpoint>>(endpoints: T): T => endpoints;
const ok = z.object({ ok: z.literal(true) });
const byLesson = z.object({ lessonId: idSchema });
const byTake = z.object({ takeId: idSchema });
const byFilm = z.object({ filmId: idSchema });
/** 22 base64url characters: 128 bits. */
const byToken = z.object({ token: z.string().regex(/^[A-Za-z0-9_-]{22}$/) });

export const ENDPOINTS = define({
  health: {
    method: 'get',
    path: '/api/health',
    summary: 'Whether the server is up.',
    answer: z.object({ ok: z.literal(true), version: z.string() }),
    open: true,
  },
  session: {
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in.',
    answer: sessionSchema,
    open: true,
  },
  signIn: {
    method: 'post',
    path: '/api/session',
    summary: 'Sign in with the passphrase.',
    body: z.object({ passphrase: z.string().min(1).max(400) }),
    answer: sessionSchema,
    open: true,
  },
  signOut: { method: 'delete', path: '/api/session', summary: 'Sign out.', answer: ok },
  setUp: {
    method: 'post',
    path: '/api/set-up',
    summary:
      'First start: set the teacher’s name and passphrase, with the code printed by the server.',
    body: z.object({
      code: z.string().max(100),
      teacherName: z.string().overwrite(cleanLine).trim().min(1).max(140),
      passphrase: z.string().min(10).max(400),
    }),
    answer: sessionSchema,
    open: true,
  },
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
  places: {
    method: 'get',
    path: '/api/places',
    summary: 'Where films go, with the limits of each place, and where attention usually ends.',
    answer: placesSchema,
  },
  setPlace: {
    method: 'post',
    path: '/api/places',
    summary: 'Add a destination, or change the one with its id.',
    body: destinationSchema,
    answer: placesSchema,
  },
  removePlace: {
    method: 'delete',
    path: '/api/places/:destinationId',
    summary: 'Remove a destination. Lessons that go there then have no limits.',
    params: z.object({ destinationId: destinationIdSchema }),
    answer: placesSchema,
  },
  setAttention: {
    method: 'post',
    path: '/api/attention',
    summary: 'Set where attention usually ends, µs.',
    body: placesSchema.pick({ attentionUs: true }),
    answer: placesSchema,
  },
  room: {
    method: 'get',
    path: '/api/room',
    summary: 'Room left on the server’s disk, bytes.',
    answer: z.object({ freeBytes: z.number().int() }),
  },
  take: {
    method: 'get',
    path: '/api/takes/:takeId',
    summary: 'A take: how it stands with it.',
    params: byTake,
    answer: takeSchema,
  },
  newTake: {
    method: 'post',
    path: '/api/lessons/:lessonId/takes',
    summary:
      'Begin a take. Each track’s bytes then come by tus 1.0 to /api/uploads with its id as `trackId`.',
    params: byLesson,
    body: newTakeSchema,
    answer: takeSchema,
  },
  stopTake: {
    method: 'post',
    path: '/api/takes/:takeId/stop',
    summary: 'All bytes of the take have been sent: measure it and make it playable.',
    params: byTake,
    body: z.object({ cutShort: z.boolean().default(false) }),
    answer: takeSchema,
  },
  settleTake: {
    method: 'post',
    path: '/api/takes/:takeId/settle',
    summary:
      'Make a take ready anew from what came in: after a failure, or after it was called off.',
    params: byTake,
    answer: takeSchema,
  },
  callOffTake: {
    method: 'post',
    path: '/api/takes/:takeId/call-off',
    summary: 'Stop making a take ready. What came in is kept.',
    params: byTake,
    answer: takeSchema,
  },
  takeAlive: {
    method: 'post',
    path: '/api/takes/:takeId/alive',
    summary:
      'Still recording, or paused. A take that is not heard of for 30 s is taken as cut short.',
    params: byTake,
    answer: ok,
  },
  levels: {
    method: 'get',
    path: '/api/takes/:takeId/levels',
    summary: 'Loudness of the voice: a byte for each 20 ms, dBFS + 100.',
    params: byTake,
    file: 'application/octet-stream',
  },
  still: {
    method: 'get',
    path: '/api/takes/:takeId/still',
    summary: 'A picture of the take at a recorded time, 320 or 960 px wide.',
    params: byTake,
    query: z.object({
      atUs: z.coerce.number().pipe(usSchema),
      size: z.enum(['small', 'large']).default('small'),
    }),
    file: 'image/jpeg',
  },
  media: {
    method: 'get',
    path: '/api/tracks/:trackId/media',
    summary: 'A track as it was recorded, for the preview. Answers ranges.',
    params: z.object({ trackId: idSchema }),
    file: 'video/mp4',
  },
  films: {
    method: 'get',
    path: '/api/lessons/:lessonId/films',
    summary: 'Films made of a lesson, newest first, with the progress of those being made.',
    params: byLesson,
    answer: z.array(filmRowSchema),
  },
  makeFilm: {
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
  filmFile: {
    method: 'get',
    path: '/api/films/:filmId/file',
    summary: 'The MP4, named by the lesson’s title.',
    params: byFilm,
    file: 'video/mp4',
  },
  handOuts: {
    method: 'get',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'The links under which a lesson can be watched.',
    params: byLesson,
    answer: z.array(handOutSchema),
  },
  handOut: {
    method: 'post',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'Hand the lesson out as it is now, to anyone with the link.',
    params: byLesson,
    body: z.object({ size: pictureSizeSchema }),
    answer: handOutSchema,
  },
  takeBack: {
    method: 'delete',
    path: '/api/hand-outs/:handOutId',
    summary: 'Take a link away. It answers 404 from then on.',
    params: z.object({ handOutId: idSchema }),
    answer: ok,
  },
  watch: {
    method: 'get',
    path: '/api/watch/:token',
    summary: 'What a student sees beside the film.',
    params: byToken,
    answer: watchSchema,
    open: true,
  },
  watchFilm: {
    method: 'get',
    path: '/api/watch/:token/film.mp4',
    summary: 'The film a student watches. Answers ranges.',
    params: byToken,
    file: 'video/mp4',
    open: true,
  },
  watchCover: {
    method: 'get',
    path: '/api/watch/:token/cover.jpg',
    summary: 'The still picture shown before play.',
    params: byToken,
    file: 'image/jpeg',
    open: true,
  },
});

export type EndpointName = keyof typeof ENDPOINTS;
export type AnswerOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  answer: infer A extends z.ZodType;
}
  ? z.infer<A>
  : never;
export type ParamsOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  params: infer P extends z.ZodType;
}
  ? z.infer<P>
  : undefined;
export type BodyOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  body: infer B extends z.ZodType;
}
  ? z.input<B>
  : undefined;

/** Fills in the parameters of a path; each is escaped. */
export const pathTo = <N extends EndpointName>(name: N, params?: ParamsOf<N>): string =>
  ENDPOINTS[name].path.replace(/:(\w+)/g, (_, key: string) => {
    const value = (params as Record<string, string> | undefined)?.[key];
    if (value === undefined) throw new TypeError(`${name} needs ${key}`);
    return encodeURIComponent(value);
  });

/** Where the bytes of tracks go, by the tus 1.0 protocol. */
export const UPLOADS_PATH = '/api/uploads';
