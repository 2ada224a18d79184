import * as z from 'zod';
import { MOST_TRACKS } from '../contract/takes';
import { entrySchema } from '../edit/entry';
import { TellableError } from '../errors/errors';
import { mediumOf } from '../lesson/medium';
import { idSchema, takeSchema, type Id, type Track } from '../lesson/take';
import { materialSchema, MOST_MATERIALS, type Material } from '../material/material';
import { mediaName } from './opentimelineio';

/** The name that a bundle's document says it is, and the version of its form. */
export const BUNDLE_FORM = 'under-chalk-lesson';
export const BUNDLE_VERSION = 1;

/** Where its document is, and most bytes of it that are read. */
export const BUNDLE_DOCUMENT = 'lesson.json';
export const MOST_DOCUMENT_BYTES = 50_000_000;

const MOST_TAKES = 2_000;
/** More than years of work come to; what they come to is computed whenever the lesson is first asked for. */
const MOST_EDITS = 50_000;

/**
 * The document of a lesson's bundle, `lesson.json`: all that was decided, in order, and the facts about what was recorded and
 * brought in. Beside it stand `timeline.otio`, `media/<track>.mp4`, `ink/<track>.ndjson` (a record a line) and
 * `materials/<content><ending>`.
 */
export const bundleSchema = z
  .object({
    form: z.literal(BUNDLE_FORM),
    version: z.literal(BUNDLE_VERSION),
    lessonId: idSchema,
    /** Replayed, they are the lesson's decisions. */
    edits: z.array(entrySchema).min(1).max(MOST_EDITS).readonly(),
    takes: z.array(takeSchema).max(MOST_TAKES).readonly(),
    materials: z.array(materialSchema).max(MOST_MATERIALS).readonly(),
  })
  .readonly();
export type Bundle = z.infer<typeof bundleSchema>;

/** Its text: the same bundle is the same to the byte. */
export const bundleText = (bundle: Bundle): string => `${JSON.stringify(bundle, null, 2)}\n`;

/** Where a track is in the archive: what was written a record a line, everything else an MP4. */
export const trackName = (track: Pick<Track, 'id' | 'kind'>): string =>
  mediumOf(track.kind) === 'events' ? `ink/${track.id}.ndjson` : mediaName(track);

/** Where a material is in the archive, by its content: the file as it was brought in. Null: its bytes never came. */
export const materialPath = ({ content, name }: Material): string | null => {
  if (!content) return null;
  const [ending = ''] = /\.[a-z0-9]{1,12}$/.exec(name.toLowerCase()) ?? [];
  return `materials/${content}${ending}`;
};

const headSchema = z.object({ form: z.literal(BUNDLE_FORM), version: z.number().int().min(1) });

const isTime = (text: string): boolean => text.length <= 40 && !Number.isNaN(Date.parse(text));

/** Names every thing only once, each take with tracks that can be, and times that are. */
const isSound = ({ lessonId, takes, materials }: Bundle): boolean => {
  const ids = [lessonId, ...takes.map(({ id }) => id), ...materials.map(({ id }) => id)];
  const tracks = takes.flatMap((take) => take.tracks);
  const all = [...ids, ...tracks.map(({ id }) => id)];
  return (
    new Set(all).size === all.length &&
    materials.every(({ broughtAt }) => isTime(broughtAt)) &&
    takes.every(
      (take) =>
        take.state === 'ready' &&
        isTime(take.recordedAt) &&
        take.tracks.length > 0 &&
        take.tracks.length <= MOST_TRACKS &&
        new Set(take.tracks.map(({ kind }) => kind)).size === take.tracks.length,
    )
  );
};

/**
 * Reads the document of a bundle. It may be anybody's.
 *
 * @throws TellableError `bundle-unreadable`, `bundle-newer`
 */
export const readBundleText = (text: string): Bundle => {
  let plain: unknown = null;
  try {
    plain = JSON.parse(text);
  } catch {
    // Not even a value.
  }
  const head = headSchema.safeParse(plain);
  if (head.success && head.data.version > BUNDLE_VERSION) throw new TellableError('bundle-newer');
  const read = bundleSchema.safeParse(plain);
  if (!read.success) throw new TellableError('bundle-unreadable', read.error.message.slice(0, 500));
  if (!isSound(read.data)) throw new TellableError('bundle-unreadable', 'two things of one name');
  return read.data;
};

/** Ids of everything that a bundle brings: its lesson, takes, tracks and materials. */
export const idsIn = ({ lessonId, takes, materials }: Bundle): Id[] => [
  lessonId,
  ...takes.flatMap(({ id, tracks }) => [id, ...tracks.map((track) => track.id)]),
  ...materials.map(({ id }) => id),
];

/**
 * A bundle with other names for everything that it brings, wherever they stand in it: where its own are taken.
 *
 * @param nameOf the new name of each
 * @throws TellableError `bundle-unreadable`
 */
export const renamed = (bundle: Bundle, nameOf: (id: Id) => Id): Bundle => {
  const names = new Map(idsIn(bundle).map((id) => [id, nameOf(id)]));
  const other = (value: unknown): unknown => {
    if (typeof value === 'string') return names.get(value) ?? value;
    if (Array.isArray(value)) return value.map(other);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([key, inside]) => [names.get(key) ?? key, other(inside)]),
    );
  };
  const read = bundleSchema.safeParse(other(bundle));
  if (!read.success) throw new TellableError('bundle-unreadable', 'names that mean other things');
  return read.data;
};
