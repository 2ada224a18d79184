import * as z from 'zod';
import { soundFormSchema } from '../destination/sound-form';
import { toldLicenceSchema } from '../lesson/licence';
import { assignmentSchema } from '../submission/assignment';
import { usSchema } from '../lesson/take';
import { shownInteractionSchema } from '../interaction/shown';
import { readDescriptionSchema } from '../words/audio-description';
import { byToken, define } from './endpoint';
import { filmStateSchema } from './films';

/** Names a film by what it is made of: whoever plays one goes on with it when another is given under the same link. */
export const versionSchema = z.string().regex(/^[0-9a-f]{40}$/);

export const watchSchema = z.object({
  title: z.string(),
  description: z.string(),
  teacherName: z.string(),
  filmUs: usSchema,
  /** Parts of the film about one point each, to jump to. */
  chapters: z.array(z.object({ title: z.string(), startUs: usSchema, endUs: usSchema })),
  /** Pages of the board that can be kept, as PDF; 0: there are none. */
  notePages: z.number().int().default(0),
  /** Languages that there are captions in, the spoken one first. */
  languages: z.array(z.string()).default([]),
  /** What is seen, in words, and when the film comes to it: in the language that is spoken. */
  described: z.array(readDescriptionSchema).default([]),
  /** What is asked and said in it, where it comes to it: nothing that says what is right. */
  interactions: z.array(shownInteractionSchema).default([]),
  /** The language that is spoken (BCP 47). */
  spoken: z.string().default('en'),
  /** Width by height of the picture. */
  aspect: z
    .number()
    .positive()
    .default(16 / 9),
  /** Names the film as it is now, where it can be played in pieces (`contract/stream`). */
  stream: z.string().nullable().default(null),
  /** It may be saved, and not only watched. */
  downloads: z.boolean().default(false),
  /** What its teacher gives along with it, in order: a name, and how much it is. */
  materials: z.array(z.object({ name: z.string(), bytes: z.number().int() })).default([]),
  /** What others may do with it; null: nothing is said. */
  licence: toldLicenceSchema.nullable().default(null),
  /** What is done when it has been watched; null: nothing is said. */
  assignment: assignmentSchema.nullable().default(null),
  /** Its teacher sees by name how much of it is watched from here; else it is counted without. */
  named: z.boolean().default(false),
  state: filmStateSchema,
  done: z.number(),
});
export type Watch = z.infer<typeof watchSchema>;

/** Whether a film can be watched: when it is made; in pieces also while it is being made. */
export const canBePlayed = ({ state, stream }: Pick<Watch, 'state' | 'stream'>): boolean =>
  state === 'done' || (stream !== null && (state === 'waiting' || state === 'making'));

/** What oEmbed 1.0 says of a film (§2.3.4.2). */
export const oEmbedSchema = z.object({
  type: z.literal('video'),
  version: z.literal('1.0'),
  title: z.string(),
  author_name: z.string(),
  provider_name: z.literal('Under Chalk'),
  html: z.string(),
  width: z.number().int(),
  height: z.number().int(),
  thumbnail_url: z.string(),
  thumbnail_width: z.number().int(),
  thumbnail_height: z.number().int(),
});

export const WATCH = define({
  watch: {
    method: 'get',
    path: '/api/watch/:token',
    summary: 'What a student sees beside the film.',
    params: byToken,
    answer: watchSchema,
    from: 'student',
  },
  watchFilm: {
    method: 'get',
    path: '/api/watch/:token/film.mp4',
    summary:
      'The film a student watches: the one that is given now, or the one of a version that they began with. Answers ranges.',
    params: byToken,
    query: z.object({ version: versionSchema.optional() }),
    file: 'video/mp4',
    from: 'student',
  },
  watchSave: {
    method: 'get',
    path: '/api/watch/:token/save/:form',
    summary: 'The film to be saved, or its sound alone, where its teacher lets students save it.',
    params: byToken.extend({ form: z.enum(['mp4', ...soundFormSchema.options]) }),
    file: 'video/mp4',
    from: 'student',
  },
  watchMaterial: {
    method: 'get',
    path: '/api/watch/:token/materials/:number',
    summary: 'A material that is given along with the film, as it was brought in; counted from 0.',
    params: byToken.extend({ number: z.string().regex(/^\d{1,3}$/) }),
    file: 'application/octet-stream',
    from: 'student',
  },
  watchOEmbed: {
    method: 'get',
    path: '/api/watch/:token/oembed',
    summary: 'How the film is shown in a page of another site (oEmbed 1.0, JSON).',
    params: byToken,
    answer: oEmbedSchema,
    from: 'student',
  },
  watchCover: {
    method: 'get',
    path: '/api/watch/:token/cover.jpg',
    summary: 'The still picture shown before play.',
    params: byToken,
    file: 'image/jpeg',
    from: 'student',
  },
});
