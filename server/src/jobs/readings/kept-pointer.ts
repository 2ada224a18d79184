import type { Take, Track } from '@under-chalk/core/lesson/take';
import { foundPointerSchema, pathOfFound, screenOf } from '@under-chalk/core/pointer/found';
import type { SeenPointerOf } from '@under-chalk/core/pointer/path';
import * as z from 'zod';
import type { MediaStore } from '../../store/media-store';
import type { PointerReading } from './find-pointer';
import { keepRead, readKept } from './kept-reading';

const readingSchema = foundPointerSchema.unwrap().extend({ of: z.string() });

/** What was read of a track; null where nothing was, or of other pictures than these. */
export const readingOf = (media: MediaStore, track: Track): Promise<PointerReading | null> =>
  readKept(media.pointer(track.id), readingSchema, track.digest);

/** Keeps what was read of a track. */
export const keepReading = (
  media: MediaStore,
  track: Track,
  reading: PointerReading,
): Promise<void> => keepRead(media, media.pointer(track.id), reading);

/** Pointers that were seen in the pictures of some takes, as far as they have been looked for. */
export const seenInTakes = async (
  takes: Iterable<Take>,
  media: MediaStore,
): Promise<SeenPointerOf> => {
  const seen = new Map<string, ReturnType<SeenPointerOf>>();
  for (const take of takes) {
    const track = screenOf(take);
    const reading = track && (await readingOf(media, track));
    if (reading) seen.set(take.id, pathOfFound(reading));
  }
  return (takeId) => seen.get(takeId) ?? null;
};
