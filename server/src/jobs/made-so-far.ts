import { SOUND_BITS } from '@under-chalk/core/destination/picture-size';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { MadeSoFar } from '@under-chalk/core/contract/films';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { toSeconds } from '@under-chalk/core/time/us';
import { chunkPath, PieceCache } from '@under-chalk/render';
import { stat } from 'node:fs/promises';
import type { MediaStore } from '../store/media-store';
import { planOfLesson } from './film-work';

/** What is there of a film tells how large the rest will be when it is so much of it. */
const LEAST_SHARE = 0.25;

/**
 * What a film of a lesson will take, by the pieces of its pictures that are there already: some were made while it was recorded, others
 * for a film before.
 *
 * @param chunksFolder where pieces are kept
 * @returns null where too few are
 */
export const madeSoFar = async (
  lesson: Lesson,
  size: PictureSize,
  media: MediaStore,
  chunksFolder: string,
): Promise<MadeSoFar | null> => {
  const { plan, film } = await planOfLesson(lesson, size, media);
  const cache = new PieceCache(chunksFolder);
  const there = { frames: 0, bytes: 0 };
  for (const { key, frames } of plan.manifest.chunks) {
    const facts = await stat(chunkPath(cache, key)).catch(() => null);
    if (!facts) continue;
    there.frames += frames;
    there.bytes += facts.size;
  }
  if (film.frames === 0 || there.frames < film.frames * LEAST_SHARE) return null;
  const pictures = (there.bytes * film.frames) / there.frames;
  const sound = (toSeconds(film.durationUs) * SOUND_BITS) / 8;
  return { bytes: Math.round(pictures + sound), filmUs: film.durationUs };
};
