import type { Take, Track } from '@under-chalk/core/lesson/take';
import { foundPointerSchema, pathOfFound, screenOf } from '@under-chalk/core/pointer/found';
import type { SeenPointerOf } from '@under-chalk/core/pointer/path';
import { readFile, rename } from 'node:fs/promises';
import * as z from 'zod';
import { writeSynced } from '../../store/force-to-disk';
import type { MediaStore } from '../../store/media-store';
import type { PointerReading } from './find-pointer';

const readingSchema = foundPointerSchema.unwrap().extend({ of: z.string() });

/** What was read of a track; null where nothing was, or of other pictures than these. */
export const readingOf = async (
  media: MediaStore,
  track: Track,
): Promise<PointerReading | null> => {
  // What isn't there, or isn't whole, is measured anew.
  const text = await readFile(media.pointer(track.id), 'utf8').catch(() => '');
  let read: unknown = null;
  try {
    read = JSON.parse(text);
  } catch {
    return null;
  }
  const { data } = readingSchema.safeParse(read);
  return data?.of === track.digest ? data : null;
};

/** Keeps what was read of a track; what is there is there whole. */
export const keepReading = async (
  media: MediaStore,
  track: Track,
  reading: PointerReading,
): Promise<void> => {
  const draft = media.draft();
  await writeSynced(draft, Buffer.from(JSON.stringify(reading)));
  await rename(draft, media.pointer(track.id));
};

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
