import type { MediaFile } from '@under-chalk/render';
import { randomUUID } from 'node:crypto';
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
  /** A settled track: always an MP4 of one stream. */
  media(trackId: string): MediaFile;
  /** What was written in a settled track of ink: records, a line each. */
  ink(trackId: string): string;
  /** Whether what a settled track came to is there. */
  hasMedia(trackId: string): boolean;
  /** Loudness of a take's voice ({@link LevelLine}). */
  levels(takeId: string): string;
  /** How loud a settled sound track is ({@link Loudness}). */
  loudness(trackId: string): string;
  /** Where a pointer was seen in a settled track ({@link PointerReading}). */
  pointer(trackId: string): string;
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
  /** Removes all there is of a take, for good. */
  forgetTake(takeId: string, trackIds: readonly string[]): Promise<void>;
  forgetFilm(filmId: string): Promise<void>;
}

const DRAFT = '.draft';

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
    pointer: (trackId) => join(folders.media, `${trackId}.pointer`),
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
    async forgetTake(takeId, trackIds) {
      for (const trackId of trackIds) {
        await rm(store.media(trackId).path, { force: true });
        await rm(store.ink(trackId), { force: true });
        await rm(store.pointer(trackId), { force: true });
        await rm(store.loudness(trackId), { force: true });
        await store.forgetIncoming(trackId);
      }
      await rm(store.levels(takeId), { force: true });
    },
    forgetFilm: (filmId) => rm(store.film(filmId), { force: true }),
  };
  return store;
};
