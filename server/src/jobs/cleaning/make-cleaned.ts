import type { Track } from '@under-chalk/core/lesson/take';
import type { Cleaning } from '@under-chalk/core/sound/cleaning/cleaning';
import { cleanTrack } from '@under-chalk/render';
import { rename, rm } from 'node:fs/promises';
import { forceToDisk } from '../../store/force-to-disk';
import type { MediaStore } from '../../store/media-store';

/** Takes the room from under a sound track, and keeps what comes of it beside it; nothing is done where it is there. */
export const makeCleaned = async (
  media: MediaStore,
  track: Track,
  cleaning: Cleaning,
  onProgress?: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> => {
  if (media.hasCleaned(track, cleaning)) return;
  const draft = media.draft();
  const work = { media: media.media(track.id), cleaning, ...(signal ? { signal } : {}) };
  try {
    await cleanTrack(work, track.durationUs, draft, onProgress);
    await forceToDisk(draft);
    await rename(draft, media.cleaned(track, cleaning).path);
    // Its take has gone for good meanwhile.
    if (!media.hasMedia(track.id)) await media.forgetCleaned(track.id);
  } finally {
    await rm(draft, { force: true });
  }
};
