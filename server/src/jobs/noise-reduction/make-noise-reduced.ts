import type { Track } from '@under-chalk/core/lesson/take';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { reduceNoiseInTrack } from '@under-chalk/render';
import { rename, rm } from 'node:fs/promises';
import { forceToDisk } from '../../store/force-to-disk';
import type { MediaStore } from '../../store/media-store';

/** Takes the room from under a sound track, and keeps what comes of it beside it; nothing is done where it is there. */
export const makeNoiseReduced = async (
  media: MediaStore,
  track: Track,
  reduction: NoiseReduction,
  onProgress?: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> => {
  if (media.hasNoiseReduced(track, reduction)) return;
  const draft = media.draft();
  const work = { media: media.media(track.id), reduction, ...(signal ? { signal } : {}) };
  try {
    await reduceNoiseInTrack(work, track.durationUs, draft, onProgress);
    await forceToDisk(draft);
    await rename(draft, media.noiseReduced(track, reduction).path);
    // Its take has gone for good meanwhile.
    if (!media.hasMedia(track.id)) await media.forgetNoiseReduced(track.id);
  } finally {
    await rm(draft, { force: true });
  }
};
