import * as z from 'zod';
import { MOST_TRACKS } from '../contract/takes';
import { entrySchema } from '../edit/entry';
import { AppError } from '../errors/errors';
import { mediumOf } from '../lesson/medium';
import { idSchema, takeSchema, type Id, type Track } from '../lesson/take';
import { materialSchema, MOST_MATERIALS, type Material } from '../material/material';
import { fromVersion1 } from './lesson-archive-1';
import { mediaName } from './opentimelineio';

/** The name that a lesson archive's document says it is, and the version of its form. */
export const ARCHIVE_FORM = 'under-chalk-lesson';
export const ARCHIVE_VERSION = 2;

/** Where its document is, and most bytes of it that are read. */
export const ARCHIVE_DOCUMENT = 'lesson.json';
export const MOST_DOCUMENT_BYTES = 50_000_000;

const MOST_TAKES = 2_000;
/** More than years of work come to; what they come to is computed whenever the lesson is first asked for. */
const MOST_EDITS = 50_000;

/**
 * The document of a lesson's lesson archive, `lesson.json`: all that was decided, in order, and the facts about what was recorded and
 * brought in. Beside it stand `timeline.otio`, `media/<track>.mp4`, `ink/<track>.ndjson` (a record a line) and
 * `materials/<content><ending>`.
 */
export const lessonArchiveSchema = z
  .object({
    form: z.literal(ARCHIVE_FORM),
    version: z.literal(ARCHIVE_VERSION),
    lessonId: idSchema,
    /** Replayed, they are the lesson's decisions. */
    edits: z.array(entrySchema).min(1).max(MOST_EDITS).readonly(),
    takes: z.array(takeSchema).max(MOST_TAKES).readonly(),
    materials: z.array(materialSchema).max(MOST_MATERIALS).readonly(),
  })
  .readonly();
export type LessonArchive = z.infer<typeof lessonArchiveSchema>;

/** Its text: the same lesson archive is the same to the byte. */
export const archiveText = (bundle: LessonArchive): string =>
  `${JSON.stringify(bundle, null, 2)}\n`;

/** Where a track is in the archive: what was written a record a line, everything else an MP4. */
export const trackName = (track: Pick<Track, 'id' | 'kind'>): string =>
  mediumOf(track.kind) === 'events' ? `ink/${track.id}.ndjson` : mediaName(track);

/** Where a material is in the archive, by its content: the file as it was brought in. Null: its bytes never came. */
export const materialPath = ({ content, name }: Material): string | null => {
  if (!content) return null;
  const [ending = ''] = /\.[a-z0-9]{1,12}$/.exec(name.toLowerCase()) ?? [];
  return `materials/${content}${ending}`;
};

const headSchema = z.object({ form: z.literal(ARCHIVE_FORM), version: z.number().int().min(1) });

const isTime = (text: string): boolean => text.length <= 40 && !Number.isNaN(Date.parse(text));

/** Names every thing only once, each take with tracks that can be, and times that are. */
const isSound = ({ lessonId, takes, materials }: LessonArchive): boolean => {
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
 * Reads the document of a lesson archive. It may be anybody's.
 *
 * @throws AppError `archive-unreadable`, `archive-newer`
 */
export const readArchiveText = (text: string): LessonArchive => {
  let plain: unknown = null;
  try {
    plain = JSON.parse(text);
  } catch {
    // Not even a value.
  }
  const head = headSchema.safeParse(plain);
  if (head.success && head.data.version > ARCHIVE_VERSION) throw new AppError('archive-newer');
  const known = head.success && head.data.version === 1 ? fromVersion1(plain) : plain;
  const read = lessonArchiveSchema.safeParse(known);
  if (!read.success) throw new AppError('archive-unreadable', read.error.message.slice(0, 500));
  if (!isSound(read.data)) throw new AppError('archive-unreadable', 'two things of one name');
  return read.data;
};

/** Ids of everything that a lesson archive brings: its lesson, takes, tracks and materials. */
export const idsIn = ({ lessonId, takes, materials }: LessonArchive): Id[] => [
  lessonId,
  ...takes.flatMap(({ id, tracks }) => [id, ...tracks.map((track) => track.id)]),
  ...materials.map(({ id }) => id),
];

/**
 * A lesson archive with other names for everything that it brings, wherever they stand in it: where its own are taken.
 *
 * @param nameOf the new name of each
 * @throws AppError `archive-unreadable`
 */
export const renamed = (bundle: LessonArchive, nameOf: (id: Id) => Id): LessonArchive => {
  const names = new Map(idsIn(bundle).map((id) => [id, nameOf(id)]));
  const other = (value: unknown): unknown => {
    if (typeof value === 'string') return names.get(value) ?? value;
    if (Array.isArray(value)) return value.map(other);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([key, inside]) => [names.get(key) ?? key, other(inside)]),
    );
  };
  const read = lessonArchiveSchema.safeParse(other(bundle));
  if (!read.success) throw new AppError('archive-unreadable', 'names that mean other things');
  return read.data;
};
