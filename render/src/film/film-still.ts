import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { Track } from '@under-chalk/core/lesson/take';
import type { Scene } from '@under-chalk/core/scene/scene';
import type { PageOf } from '@under-chalk/paint';
import { CHUNK_LIMITS } from '../ffmpeg/encoder';
import { ffmpegPictures } from '../ffmpeg/pipes';
import { loadPages, pagesIn } from '../paths/pages';
import { paintChunk } from '../paths/painter';
import { makeSheet } from '../paths/sheet';
import type { ChunkJob } from './render-chunk';

/** What it takes to paint a frame of a film. */
export interface StillJob extends Pick<
  ChunkJob,
  'mediaOf' | 'inkOf' | 'pageFile' | 'signal' | 'background'
> {
  readonly scene: Scene;
  readonly trackOf: (trackId: string) => Track;
}

/**
 * Paints one frame of a film, as the film will have it.
 *
 * @throws FfmpegError where a picture can't be had; the signal's reason
 */
export const paintStill = async (
  { scene, trackOf, mediaOf, inkOf, pageFile, signal, background = false }: StillJob,
  size: SizePx,
): Promise<Canvas> => {
  const scenes = [scene];
  const pageOf = await loadPages(pagesIn(scenes, size, inkOf), pageFile);
  const limits = { ...CHUNK_LIMITS, background };
  const canvas = createCanvas(size.widthPx, size.heightPx);
  await paintChunk(
    {
      ...{ scenes, inkOf, pageOf: pageOf as PageOf<never>, makeSheet },
      open: (trackId, from, frames) =>
        ffmpegPictures(mediaOf(trackId), trackOf(trackId), from, frames, signal, limits),
    },
    size,
    canvas.getContext('2d') as never,
    // It stays on the canvas.
    { write: () => Promise.resolve(), finish: () => Promise.resolve() },
    () => undefined,
  );
  return canvas;
};
