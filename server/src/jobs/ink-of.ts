import { AppError } from '@under-chalk/core/errors/errors';
import type { Film } from '@under-chalk/core/film/film';
import { inkTrackOf, type InkTrack } from '@under-chalk/core/ink/ink-track';
import { readInk } from '@under-chalk/core/ink/record';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { inkOfLesson, type InkOf } from '@under-chalk/core/ink/changed-track';
import { isLeftAlone } from '@under-chalk/core/pointer/look';
import { NONE_SEEN, type SeenPointerOf } from '@under-chalk/core/pointer/path';
import { readFile } from 'node:fs/promises';
import { seenInTakes } from './readings/kept-pointer';
import type { MediaStore } from '../store/media-store';

/**
 * What was written while some takes were recorded, by its track.
 *
 * @throws AppError `footage-missing`
 */
export const inkOfTakes = async (
  takes: Iterable<Take>,
  media: MediaStore,
): Promise<(trackId: string) => InkTrack | null> => {
  const tracks = new Map<string, InkTrack>();
  for (const take of takes) {
    const track = trackOf(take, 'ink');
    if (!track || tracks.has(track.id)) continue;
    const text = await readFile(media.ink(track.id), 'utf8').catch(() => {
      throw new AppError('footage-missing', `track ${track.id}`);
    });
    tracks.set(track.id, inkTrackOf(readInk(text).records));
  }
  return (trackId) => tracks.get(trackId) ?? null;
};

/** What is written in a film, with what was changed about it. */
export const inkOfFilm = async ({ spans, lesson }: Film, media: MediaStore): Promise<InkOf> =>
  inkOfLesson(lesson, await inkOfTakes(new Set(spans.map(({ take }) => take)), media));

/** Pointers that were seen in the pictures of a film, where something of them is to be seen or heard. */
export const seenInFilm = async (
  { spans, lesson }: Film,
  media: MediaStore,
): Promise<SeenPointerOf> => {
  if (isLeftAlone(lesson.decisions.screenPointer)) return NONE_SEEN;
  return seenInTakes(new Set(spans.map(({ take }) => take)), media);
};
