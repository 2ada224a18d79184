import type { SoundForm } from '@under-chalk/core/destination/sound-form';
import { openOptions, run, type Limits, type MediaFile } from '@under-chalk/render';
import pLimit from 'p-limit';
import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { forceToDisk } from '../store/force-to-disk';
import type { MediaStore } from '../store/media-store';

/** What each form is made by: copied where it can be, else encoded so that a voice keeps what it has. */
const MADE_BY: Readonly<Record<SoundForm, readonly string[]>> = {
  m4a: ['-c:a', 'copy', '-movflags', '+faststart', '-f', 'ipod'],
  mp3: ['-c:a', 'libmp3lame', '-q:a', '3', '-id3v2_version', '3', '-f', 'mp3'],
};
export const SOUND_TYPES: Readonly<Record<SoundForm, string>> = {
  m4a: 'audio/mp4',
  mp3: 'audio/mpeg',
};
const LIMITS: Limits = { deadlineMs: 1_800_000, memoryBytes: 3e9, background: true };

const inTurn = pLimit(1);
const making = new Map<string, Promise<string>>();

/**
 * The sound of a finished film alone, with its title and its chapters: made once, when it is first asked for, and kept beside the
 * film.
 *
 * @returns its path
 * @throws FfmpegError
 */
export const filmSound = (media: MediaStore, filmId: string, form: SoundForm): Promise<string> => {
  const path = media.filmSound(filmId, form);
  if (existsSync(path)) return Promise.resolve(path);
  const before = making.get(path);
  if (before) return before;
  const film: MediaFile = { path: media.film(filmId), demuxer: 'mov' };
  const made = inTurn(async () => {
    const draft = media.draft();
    try {
      await run(
        'ffmpeg',
        [
          ...[...openOptions(film), '-i', film.path, '-map', '0:a:0', '-map_metadata', '0'],
          ...['-map_chapters', '0', ...MADE_BY[form], draft],
        ],
        undefined,
        LIMITS,
      );
      await forceToDisk(draft);
      await rename(draft, path);
      return path;
    } finally {
      await rm(draft, { force: true });
    }
  }).finally(() => making.delete(path));
  making.set(path, made);
  return made;
};
