import type { MediaFile } from '@under-chalk/render';
import { soundFormSchema, type SoundForm } from '@under-chalk/core/destination/sound-form';
import type { Track } from '@under-chalk/core/lesson/take';
import {
  NOISE_REDUCTION_VERSION,
  type NoiseReduction,
} from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Folders } from '../config';
import { forceToDisk } from './force-to-disk';
import { forgetBytes, lengthOf } from './track-bytes';

/** Where footage is, and films made of it. What is made of it reads and writes files: these are their paths. */
export interface MediaStore {
  /** Where the bytes of a track come in. */
  incoming(trackId: string): string;
  hasIncoming(trackId: string): boolean;
  /** Whether every byte of a track has come. */
  isWhole(trackId: string): Promise<boolean>;
  /** Lets go of the bytes a track came as, when they have been made into its media. */
  forgetIncoming(trackId: string): Promise<void>;
  /** A processed track: always an MP4 of one stream. */
  media(trackId: string): MediaFile;
  /** What was written in a processed track of ink: records, a line each. */
  ink(trackId: string): string;
  /** Whether what a processed track came to is there. */
  hasMedia(trackId: string): boolean;
  /** Loudness of a take's voice ({@link LevelLine}). */
  levels(takeId: string): string;
  /** How loud a processed sound track is ({@link Loudness}). */
  loudness(trackId: string): string;
  /** What a processed track is known by, up to each of many times ({@link FootageMark}). */
  marks(trackId: string): string;
  /** A processed sound track without the room it was recorded in; named by what it was made of, and how. */
  noiseReduced(track: Pick<Track, 'id' | 'digest'>, reduction: NoiseReduction): MediaFile;
  hasNoiseReduced(track: Pick<Track, 'id' | 'digest'>, reduction: NoiseReduction): boolean;
  /** Lets go of what a track was reduced to; but for some files. */
  forgetNoiseReduced(trackId: string, but?: readonly string[]): Promise<void>;
  /** Where a pointer was seen in a processed track ({@link PointerReading}). */
  pointer(trackId: string): string;
  /** What its pictures show ({@link KeptPictures}). */
  pictures(trackId: string): string;
  /** A name for what is being made, never used twice: nothing else can be writing to it. */
  draft(): string;
  /** Makes room for what is about to be made. */
  prepare(): Promise<void>;
  /** Forces what has been made to the disk. */
  force(): Promise<void>;
  /** Removes what killed servers left half made. Only before anything is made. */
  clearDrafts(): Promise<void>;
  /** A finished film. */
  film(filmId: string): string;
  /** Its pictures once more, for slow lines. */
  filmRendition(filmId: string): string;
  /** The same, with so many bytes at most. */
  filmFitted(filmId: string, mostBytes: number): string;
  /** Its sound alone. */
  filmSound(filmId: string, form: SoundForm): string;
  /** How loud it came out ({@link FilmLoudness}). */
  filmLoudness(filmId: string): string;
  /** Removes all there is of a take, for good. */
  forgetTake(takeId: string, trackIds: readonly string[]): Promise<void>;
  forgetFilm(filmId: string): Promise<void>;
  /** Lets go of what it was made smaller to. */
  forgetFitted(filmId: string): Promise<void>;
}

const DRAFT = '.draft';
const NOISE_REDUCED = '.noise-reduced.mp4';
const FITTED = '.fitted-';

/** Footage and films as files in folders. */
export const mediaIn = (folders: Folders): MediaStore => {
  const store: MediaStore = {
    incoming: (trackId) => join(folders.incoming, trackId),
    hasIncoming: (trackId) => existsSync(store.incoming(trackId)),
    async isWhole(trackId) {
      const length = await lengthOf(folders.incoming, trackId);
      const facts = await stat(store.incoming(trackId)).catch(() => null);
      return length !== null && facts?.size === length;
    },
    forgetIncoming: (trackId) => forgetBytes(folders.incoming, trackId),
    media: (trackId) => ({ path: join(folders.media, `${trackId}.mp4`), demuxer: 'mov' }),
    ink: (trackId) => join(folders.media, `${trackId}.ink`),
    hasMedia: (trackId) => existsSync(store.media(trackId).path) || existsSync(store.ink(trackId)),
    levels: (takeId) => join(folders.media, `${takeId}.levels`),
    loudness: (trackId) => join(folders.media, `${trackId}.loudness`),
    marks: (trackId) => join(folders.media, `${trackId}.marks`),
    noiseReduced: ({ id, digest }, reduction) => {
      const made = createHash('sha256').update(`${digest} ${reduction} ${NOISE_REDUCTION_VERSION}`);
      const name = `${id}.${made.digest('hex').slice(0, 16)}${NOISE_REDUCED}`;
      return { path: join(folders.media, name), demuxer: 'mov' };
    },
    hasNoiseReduced: (track, reduction) => existsSync(store.noiseReduced(track, reduction).path),
    async forgetNoiseReduced(trackId, but = []) {
      const names = await readdir(folders.media).catch(() => []);
      const left = names
        .filter((name) => name.startsWith(`${trackId}.`) && name.endsWith(NOISE_REDUCED))
        .map((name) => join(folders.media, name))
        .filter((path) => !but.includes(path));
      await Promise.all(left.map((path) => rm(path, { force: true })));
    },
    pointer: (trackId) => join(folders.media, `${trackId}.pointer`),
    pictures: (trackId) => join(folders.media, `${trackId}.pictures`),
    draft: () => join(folders.media, `${randomUUID()}${DRAFT}`),
    async prepare() {
      await mkdir(folders.media, { recursive: true });
    },
    force: () => forceToDisk(folders.media),
    async clearDrafts() {
      const names = await readdir(folders.media).catch(() => []);
      // `.torn` and `.mp4.draft` are of earlier versions.
      const left = names.filter((name) => name.endsWith(DRAFT) || name.endsWith('.torn'));
      await Promise.all(left.map((name) => rm(join(folders.media, name), { force: true })));
    },
    film: (filmId) => join(folders.films, `${filmId}.mp4`),
    filmRendition: (filmId) => join(folders.films, `${filmId}.narrow.mp4`),
    filmFitted: (filmId, mostBytes) => join(folders.films, `${filmId}${FITTED}${mostBytes}.mp4`),
    filmSound: (filmId, form) => join(folders.films, `${filmId}.${form}`),
    filmLoudness: (filmId) => join(folders.films, `${filmId}.loudness`),
    async forgetTake(takeId, trackIds) {
      for (const trackId of trackIds) {
        await rm(store.media(trackId).path, { force: true });
        await rm(store.ink(trackId), { force: true });
        await rm(store.pointer(trackId), { force: true });
        await rm(store.pictures(trackId), { force: true });
        await rm(store.loudness(trackId), { force: true });
        await rm(store.marks(trackId), { force: true });
        await store.forgetNoiseReduced(trackId);
        await store.forgetIncoming(trackId);
      }
      await rm(store.levels(takeId), { force: true });
    },
    async forgetFilm(filmId) {
      for (const form of soundFormSchema.options)
        await rm(store.filmSound(filmId, form), { force: true });
      await rm(store.filmLoudness(filmId), { force: true });
      await store.forgetFitted(filmId);
      await rm(store.filmRendition(filmId), { force: true });
      await rm(store.film(filmId), { force: true });
    },
    async forgetFitted(filmId) {
      const names = await readdir(folders.films).catch(() => []);
      for (const name of names.filter((one) => one.startsWith(`${filmId}${FITTED}`)))
        await rm(join(folders.films, name), { force: true });
    },
  };
  return store;
};
