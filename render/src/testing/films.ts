import { createCanvas } from '@napi-rs/canvas';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { PageOf } from '@under-chalk/paint';
import { ffmpegFrames, ffmpegPictures } from '../ffmpeg/pipes';
import { run } from '../ffmpeg/run';
import type { ChunkJob } from '../film/render-chunk';
import type { ChunkWork } from '../plan/chunks';
import { loadPages, pagesIn } from '../paths/pages';
import { paintChunk } from '../paths/painter';
import { makeSheet } from '../paths/sheet';

/** What `ffprobe` says of some entries of a file, comma-separated. */
export const probe = async (path: string, entries: string): Promise<string> =>
  (
    await run('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'csv=p=0', path])
  ).toString();

/** Paints a chunk frame by frame, whatever moves in it: what every render path has to look like. */
export const paintedWhole = async (
  work: ChunkWork,
  { mediaOf, inkOf, pageFile }: Pick<ChunkJob, 'mediaOf' | 'inkOf' | 'pageFile'>,
  out: string,
): Promise<void> => {
  const { scenes, size, tracks } = work;
  const pageOf = await loadPages(pagesIn(scenes, size, inkOf), pageFile);
  const canvas = createCanvas(size.widthPx, size.heightPx);
  const trackOf = (trackId: string) => tracks.find(({ id }) => id === trackId)!;
  await paintChunk(
    {
      ...{ scenes, inkOf, pageOf: pageOf as PageOf<never>, makeSheet },
      open: (trackId, from, frames) =>
        ffmpegPictures(mediaOf(trackId), trackOf(trackId), from, frames),
    },
    size,
    canvas.getContext('2d') as never,
    ffmpegFrames(canvas, size, out),
    () => undefined,
  );
};

/** Likeness of two films, 0 to 1, the least of their frames (ffmpeg's `ssim`). */
export const ssimOf = async (folder: string, a: string, b: string): Promise<number> => {
  const stats = join(folder, 'ssim.txt');
  await run('ffmpeg', ['-i', a, '-i', b, '-lavfi', `ssim=stats_file=${stats}`, '-f', 'null', '-']);
  const text = await readFile(stats, 'utf8');
  return Math.min(...[...text.matchAll(/All:([\d.]+)/g)].map((match) => Number(match[1])));
};

/** Times at which sound begins after silence, in seconds. */
export const beeps = async (path: string): Promise<number[]> => {
  const pcm = await run('ffmpeg', [
    ...['-i', path, '-vn', '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1'],
  ]);
  const found: number[] = [];
  let quiet = 4_800;
  for (let at = 0; at * 4 < pcm.length; at++) {
    if (Math.abs(pcm.readFloatLE(at * 4)) > 0.1) {
      if (quiet >= 4_800) found.push(at / 48_000);
      quiet = 0;
    } else quiet++;
  }
  return found;
};
