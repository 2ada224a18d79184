import type { Take } from '@under-chalk/core/lesson/take';
import { speechIn } from '@under-chalk/core/sound/phrases';
import { hasBoth, type SpeechOf } from '@under-chalk/core/sound/ducking';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { readFile } from 'node:fs/promises';
import type { MediaStore } from '../../store/media-store';

/** Where somebody speaks in those of some takes in which that matters: over what the computer plays. */
export const speechOfTakes = async (
  takes: Iterable<Take>,
  media: MediaStore,
): Promise<SpeechOf> => {
  const found = new Map<string, readonly TimeRange[]>();
  for (const take of takes) {
    if (!hasBoth(take)) continue;
    const line = await readFile(media.levels(take.id)).catch(() => null);
    if (line) found.set(take.id, speechIn(new Uint8Array(line)));
  }
  return (takeId) => found.get(takeId) ?? [];
};
