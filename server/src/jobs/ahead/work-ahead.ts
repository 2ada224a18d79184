import { sizeOf } from '@under-chalk/core/destination/picture-size';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { filmOf, recordedAt } from '@under-chalk/core/film/film';
import { inkOfLesson } from '@under-chalk/core/ink/changed-track';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { Id } from '@under-chalk/core/lesson/take';
import { everyLayer, isPictureLayer } from '@under-chalk/core/scene/layers';
import { readScenes, type Scene } from '@under-chalk/core/scene/scene';
import { frameToUs } from '@under-chalk/core/time/frames';
import type { Us } from '@under-chalk/core/time/us';
import {
  chunkKey,
  chunkPath,
  PieceCache,
  planChunks,
  renderChunk,
  workOfChunk,
  type MediaFile,
} from '@under-chalk/render';
import { rm } from 'node:fs/promises';
import type { Folders, Shipped } from '../../config';
import { mediaIn } from '../../store/media-store';
import { inkOfTakes } from '../ink-of';
import { PagePictures } from '../materials/page-pictures';
import { marksOfTakes } from '../readings/footage-marks';
import { registerTitleFont } from '../title-font';
import { writeSlice, type FootageSoFar } from '../ingest/footage-so-far';
import { takeSoFar } from './take-so-far';

/** What is made of a lesson while a take of it is recorded, as a plain value: it crosses to another thread. */
export interface WorkAhead {
  readonly lesson: Lesson;
  /** The take that is being recorded, and what has come of its tracks of pictures and sound. */
  readonly takeId: Id;
  readonly footage: ReadonlyMap<Id, FootageSoFar>;
  readonly size: PictureSize;
  readonly folders: Folders;
  readonly shipped: Shipped;
  /** What comes before this frame of the film was made before. */
  readonly fromFrame: number;
}

export interface MadeAhead {
  /** Pieces that were not there. */
  readonly pieces: number;
  /** Up to here the film was gone through, frames. */
  readonly untilFrame: number;
}

/** What was recorded last may look otherwise soon: by what is still to come of a stroke, a pointer, a layout. */
const UNSURE_US = 3_000_000;

/** Which stretch of each track is shown, µs. */
const shownIn = (scenes: readonly Scene[]): Map<Id, { fromUs: Us; toUs: Us }> => {
  const shown = new Map<Id, { fromUs: Us; toUs: Us }>();
  for (const { layers } of scenes) {
    for (const layer of everyLayer(layers)) {
      if (!isPictureLayer(layer)) continue;
      const { fromUs = layer.takeUs, toUs = layer.takeUs } = shown.get(layer.trackId) ?? {};
      shown.set(layer.trackId, {
        fromUs: Math.min(fromUs, layer.takeUs),
        toUs: Math.max(toUs, layer.takeUs),
      });
    }
  }
  return shown;
};

/**
 * Makes the pieces of a film's pictures while a take of it is still being recorded: those of what is surely over, in the order of the
 * film, as if it were stopped now. They have the names that they will have when it has been (`footage-marks`), so that whoever makes the film
 * finds them. What turns out otherwise was made for nothing.
 *
 * @throws the signal's reason
 */
export const workAhead = async (
  { lesson, takeId, footage, size, folders, shipped, fromFrame }: WorkAhead,
  signal: AbortSignal,
): Promise<MadeAhead> => {
  const nothing = { pieces: 0, untilFrame: fromFrame };
  const media = mediaIn(folders);
  const recording = lesson.takes.find(({ id }) => id === takeId);
  const sofar = recording && (await takeSoFar(recording, footage, media, signal));
  if (!sofar) return nothing;
  const others = lesson.takes.filter(({ id }) => id !== takeId);
  const asIfStopped: Lesson = { ...lesson, takes: [...others, sofar.take] };
  const film = filmOf(asIfStopped);
  const shown = new Set(film.spans.map(({ take }) => take));
  shown.delete(sofar.take);
  const [inkOfOthers, marksOfOthers] = await Promise.all([
    inkOfTakes(shown, media),
    marksOfTakes(others, media),
  ]);
  const inkOf = inkOfLesson(asIfStopped, (id) => sofar.ink.get(id) ?? inkOfOthers(id));
  const scenes = readScenes(film, inkOf);
  const cache = new PieceCache(folders.chunks);
  const sizePx = sizeOf(asIfStopped, size);
  const sureUs = sofar.take.durationUs - UNSURE_US;
  registerTitleFont(shipped.fontFile);
  const pages = new PagePictures(folders, shipped.readerScript);
  const made = { ...nothing };

  const make = async (work: ReturnType<typeof workOfChunk>, draft: string) => {
    const slices = new Map<Id, MediaFile>();
    try {
      for (const [trackId, { fromUs, toUs }] of shownIn(work.scenes)) {
        const come = footage.get(trackId);
        if (come) slices.set(trackId, await writeSlice(come, fromUs, toUs, media.draft()));
      }
      await renderChunk(
        work,
        {
          mediaOf: (trackId) => slices.get(trackId) ?? media.media(trackId),
          inkOf,
          pageFile: pages.forFilm,
          signal,
          background: true,
          onFrames: () => undefined,
        },
        draft,
      );
    } finally {
      for (const { path } of slices.values()) await rm(path, { force: true });
    }
  };

  try {
    const marksOf = (id: Id) => sofar.marks.get(id) ?? marksOfOthers(id);
    for (const chunk of planChunks(scenes, marksOf, fromFrame)) {
      signal.throwIfAborted();
      const untilFrame = chunk.filmFrame + chunk.frames;
      const last = recordedAt(film, frameToUs(untilFrame - 1));
      if (last?.takeId === takeId && last.takeUs > sureUs) break;
      const path = chunkPath(cache, chunkKey(chunk, sizePx));
      if (!(await cache.has(path))) {
        await cache.make(path, (draft) => make(workOfChunk(chunk, scenes, sizePx), draft));
        made.pieces++;
      }
      made.untilFrame = untilFrame;
    }
  } finally {
    pages.close();
  }
  return made;
};
