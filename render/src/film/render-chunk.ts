import { createCanvas } from '@napi-rs/canvas';
import type { Film } from '@under-chalk/core/film/film';
import type { SizePx } from '@under-chalk/core/place/picture-size';
import { sceneInSection } from '@under-chalk/core/scene/scene';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHUNK_LIMITS, VIDEO_ENCODER } from '../ffmpeg/encoder';
import { ffmpegFrames, ffmpegPictures } from '../ffmpeg/pipes';
import { start, type MediaFile } from '../ffmpeg/run';
import type { Chunk, Road } from '../plan/chunks';
import { filterRoad } from '../road/filters';
import { paintChunk } from '../road/painter';

export interface ChunkJob {
  readonly film: Film;
  readonly size: SizePx;
  readonly mediaOf: (trackId: string) => MediaFile;
  readonly signal?: AbortSignal;
  /** Told how many more frames are done. */
  readonly onFrames: (frames: number) => void;
}

const byFilters = async (chunk: Chunk, job: ChunkJob, out: string): Promise<void> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-'));
  try {
    const frames = chunk.endFrame - chunk.startFrame;
    const offset = chunk.startFrame - chunk.section.startFrame;
    const scene = sceneInSection(job.film, chunk.section, offset);
    const { inputs, graph } = await filterRoad(
      { scene, startFrame: chunk.startFrame, frames },
      job.size,
      {
        mediaOf: job.mediaOf,
        trackOf: (id) => chunk.section.take.tracks.find((track) => track.id === id),
      },
      folder,
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
      ...VIDEO_ENCODER,
      '-progress',
      'pipe:1',
      '-f',
      'mp4',
      out,
    ];
    const ffmpeg = start('ffmpeg', args, job.signal, CHUNK_LIMITS);
    ffmpeg.stdin.end();
    let told = 0;
    ffmpeg.stdout.setEncoding('utf8');
    ffmpeg.stdout.on('data', (text: string) => {
      const frame = Number([...text.matchAll(/^frame=\s*(\d+)/gm)].at(-1)?.[1] ?? told);
      job.onFrames(Math.min(frames, frame) - told);
      told = Math.min(frames, frame);
    });
    await ffmpeg.ended;
    if (told !== frames) throw new Error(`a chunk has ${told} frames of ${frames}`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

const byPainter = async (chunk: Chunk, job: ChunkJob, out: string): Promise<void> => {
  const { film, size, mediaOf, signal } = job;
  const { section, startFrame } = chunk;
  const frames = chunk.endFrame - startFrame;
  const canvas = createCanvas(size.widthPx, size.heightPx);
  const readers = new Map(
    section.take.tracks
      .filter((track) => chunk.trackIds.includes(track.id))
      .map((track) => [
        track.id,
        ffmpegPictures(mediaOf(track.id), track, startFrame, frames, signal),
      ]),
  );
  await paintChunk(
    {
      frames,
      sceneOf: (frame) => sceneInSection(film, section, startFrame - section.startFrame + frame),
      readers,
    },
    size,
    canvas.getContext('2d') as never,
    ffmpegFrames(canvas, size, out, signal),
    () => job.onFrames(1),
  );
};

/** Renders one chunk into an MP4 of exactly its frames. `road` overrides the plan's; for comparing them. */
export const renderChunk = (
  chunk: Chunk,
  job: ChunkJob,
  out: string,
  road: Road = chunk.road,
): Promise<void> => (road === 'filters' ? byFilters(chunk, job, out) : byPainter(chunk, job, out));
