import type { MediaFile } from '@under-chalk/render';
import { randomUUID } from 'node:crypto';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Folders } from '../../config';

/** Where the bytes of a track come in, and where they are once settled. */
export const incomingPath = (folders: Folders, trackId: string) => join(folders.incoming, trackId);
export const mediaPath = (folders: Folders, trackId: string) =>
  join(folders.media, `${trackId}.mp4`);
export const levelsPath = (folders: Folders, takeId: string) =>
  join(folders.media, `${takeId}.levels`);

/** Settled media is always an MP4 of one stream. */
export const mediaFile = (folders: Folders, trackId: string): MediaFile => ({
  path: mediaPath(folders, trackId),
  demuxer: 'mov',
});

const DRAFT = '.draft';

/** A name for what is being made, never used twice: nothing else can be writing to it. */
export const draftPath = (folders: Folders): string =>
  join(folders.media, `${randomUUID()}${DRAFT}`);

/** Removes what killed servers left half made. Only before anything is made. */
export const clearDrafts = async (folders: Folders): Promise<void> => {
  const names = await readdir(folders.media).catch(() => []);
  // `.torn` and `.mp4.draft` are of earlier versions.
  const left = names.filter((name) => name.endsWith(DRAFT) || name.endsWith('.torn'));
  await Promise.all(left.map((name) => rm(join(folders.media, name), { force: true })));
};
