import { createCanvas } from '@napi-rs/canvas';
import type { Track } from '@under-chalk/core/lesson/take';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PageOf } from '@under-chalk/paint';
import { CHUNK_LIMITS, encoderFor } from '../ffmpeg/encoder';
import { ffmpegFrames, ffmpegPictures } from '../ffmpeg/pipes';
import { feed, start, type MediaFile } from '../ffmpeg/run';
import { filterRenderPath } from '../paths/filters';
import type { Laid } from '../paths/laid';
import { loadPages, pagesIn, type PageFile } from '../paths/pages';
import { paintChunk } from '../paths/painter';
import { makeSheet } from '../paths/sheet';
import { pointedIn } from '../paths/pointed';
import { writtenIn } from '../paths/written';
import type { ChunkWork } from '../plan/chunks';

export interface ChunkJob {
  readonly mediaOf: (trackId: string) => MediaFile;
  readonly inkOf: InkOf;
  readonly pageFile: PageFile;
  readonly signal?: AbortSignal;
  /** It gives way to everything else. */
  readonly background?: boolean;
  /** Told how many more frames are done. */
  readonly onFrames: (frames: number) => void;
}

const trackIn =
  ({ tracks }: ChunkWork) =>
  (trackId: string): Track =>
    tracks.find(({ id }) => id === trackId)!;

const limitsOf = ({ background = false }: ChunkJob) => ({ ...CHUNK_LIMITS, background });

const byFilters = async (
  work: ChunkWork,
  job: ChunkJob,
  out: string,
  pageOf: PageOf<unknown>,
  laid: Laid | null,
): Promise<void> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-'));
  try {
    const frames = work.scenes.length;
    const { inputs, graph } = await filterRenderPath(
      laid?.scene ?? work.scenes[0]!,
      frames,
      work.size,
      { mediaOf: job.mediaOf, trackOf: trackIn(work), inkOf: job.inkOf, pageOf },
      folder,
      laid,
    );
    const args = [
      ...inputs,
      '-filter_complex_threads',
      '1',
      '-filter_complex',
      graph,
      '-map',
      '[film]',
      '-frames:v',
      String(frames),
      ...encoderFor(work.tracks, work.size),
      '-progress',
      'pipe:1',
      '-f',
      'mp4',
      out,
    ];
    const ffmpeg = start('ffmpeg', args, job.signal, limitsOf(job));
    let told = 0;
    ffmpeg.stdout.setEncoding('utf8');
    ffmpeg.stdout.on('data', (text: string) => {
      const frame = Number([...text.matchAll(/^frame=\s*(\d+)/gm)].at(-1)?.[1] ?? told);
      job.onFrames(Math.min(frames, frame) - told);
      told = Math.min(frames, frame);
    });
    // Copied, because the pipe may still hold a part when the next is painted.
    for (const part of laid?.parts() ?? []) await feed(ffmpeg, Buffer.from(part));
    ffmpeg.stdin.end();
    await ffmpeg.ended;
    if (told !== frames) throw new Error(`a chunk has ${told} frames of ${frames}`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

const byPainter = async (
  work: ChunkWork,
  job: ChunkJob,
  out: string,
  pageOf: PageOf<unknown>,
): Promise<void> => {
  const { size, scenes } = work;
  const { mediaOf, inkOf, signal } = job;
  const canvas = createCanvas(size.widthPx, size.heightPx);
  const trackOf = trackIn(work);
  const limits = limitsOf(job);
  await paintChunk(
    {
      scenes,
      inkOf,
      pageOf: pageOf as PageOf<never>,
      makeSheet,
      open: (trackId, startFrame, frames) =>
        ffmpegPictures(mediaOf(trackId), trackOf(trackId), startFrame, frames, signal, limits),
    },
    size,
    canvas.getContext('2d') as never,
    ffmpegFrames(canvas, size, out, encoderFor(work.tracks, size), signal, limits),
    () => job.onFrames(1),
  );
};

/**
 * Renders one chunk into an MP4 of exactly its frames. Where nothing moves but a hand that writes, or a pointer, only the
 * part that it moves in is painted frame by frame.
 */
export const renderChunk = async (work: ChunkWork, job: ChunkJob, out: string): Promise<void> => {
  const { renderPath, scenes, size } = work;
  const pageOf = await loadPages(pagesIn(scenes, size, job.inkOf), job.pageFile);
  if (renderPath === 'filters') return byFilters(work, job, out, pageOf, null);
  const laid = writtenIn(scenes, size, job.inkOf, pageOf) ?? pointedIn(scenes, size);
  return laid ? byFilters(work, job, out, pageOf, laid) : byPainter(work, job, out, pageOf);
};
