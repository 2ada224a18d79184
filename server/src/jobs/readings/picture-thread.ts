/** The thread in which pictures are looked through, and read. */
import { PICTURE_VERSION, type PageReading } from '@under-chalk/core/picture/reading';
import { readFile } from 'node:fs/promises';
import { workInThread } from '../run-thread';
import { readPictures } from './read-pictures';
import { openTextReader } from './text-reader';
import type { TrackWork } from './track-readings';

/** A page of a material, as a picture. */
export interface PageWork {
  readonly picture: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

const readPage = async ({ picture, widthPx, heightPx }: PageWork): Promise<PageReading> => {
  const reader = await openTextReader();
  try {
    const shown = reader.read(await readFile(picture), widthPx, heightPx);
    return { version: PICTURE_VERSION, shown };
  } finally {
    reader.close();
  }
};

workInThread<TrackWork | PageWork>((work, onProgress, signal) =>
  'picture' in work ? readPage(work) : readPictures(work, onProgress, signal),
);
