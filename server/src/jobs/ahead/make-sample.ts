import type { MadeSoFar } from '@under-chalk/core/contract/films';
import { spreadOver } from '@under-chalk/core/destination/bytes-by-part';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { chunkPath, PieceCache, renderChunk } from '@under-chalk/render';
import type { Folders, Shipped } from '../../config';
import { mediaIn } from '../../store/media-store';
import { planOfLesson } from '../film-work';
import { madeSoFar } from '../made-so-far';
import { PagePictures } from '../materials/page-pictures';
import { registerTitleFont } from '../title-font';

/** A lesson whose film's size is to be known before it is made, as a plain value: it crosses to another thread. */
export interface SampleWork {
  readonly sampled: Lesson;
  readonly size: PictureSize;
  readonly folders: Folders;
  readonly shipped: Shipped;
}

/**
 * Makes pieces of a film, spread evenly over it, until they tell how large it gets. Whoever makes the film finds them.
 *
 * @returns null where there is nothing in it
 * @throws the signal's reason; AppError `footage-missing`
 */
export const makeSample = async (
  { sampled, size, folders, shipped }: SampleWork,
  signal: AbortSignal,
): Promise<MadeSoFar | null> => {
  registerTitleFont(shipped.fontFile);
  const media = mediaIn(folders);
  const { plan, film, inkOf } = await planOfLesson(sampled, size, media, signal);
  const { chunks } = plan.manifest;
  const cache = new PieceCache(folders.chunks);
  const pages = new PagePictures(folders, shipped.readerScript);
  const known = () => madeSoFar(chunks, film.durationUs, sampled, cache);
  try {
    for (const at of spreadOver(chunks.length)) {
      const told = await known();
      if (told) return told;
      signal.throwIfAborted();
      await cache.obtain(chunkPath(cache, chunks[at]!.key), (draft) =>
        renderChunk(
          plan.chunkWork(at),
          {
            ...{ mediaOf: media.media, inkOf, pageFile: pages.forFilm, signal, background: true },
            onFrames: () => undefined,
          },
          draft,
        ),
      );
    }
    return await known();
  } finally {
    pages.close();
  }
};
