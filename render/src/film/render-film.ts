import { chaptersOf } from '@under-chalk/core/film/chapters';
import type { Film } from '@under-chalk/core/film/film';
import type { SizePx } from '@under-chalk/core/place/picture-size';
import { FILM_FPS, frameToSample } from '@under-chalk/core/time/frames';
import { mkdtemp, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { SOUND_RATE, VIDEO_ENCODER } from '../ffmpeg/encoder';
import { run, type MediaFile } from '../ffmpeg/run';
import { countFrames, keyText, planChunks, type Chunk } from '../plan/chunks';
import { chapterFile } from './chapter-file';
import { checkFilm } from './check-film';
import type { PieceCache } from './cache';
import { renderChunk } from './render-chunk';
import { renderSound, soundText } from './sound';

export interface Progress {
  /** 0 to 1. */
  readonly done: number;
  readonly doing: 'pictures' | 'sound' | 'joining';
  /** Time left at the speed so far, µs; null until there is a speed. */
  readonly leftUs: number | null;
}

export interface FilmJob {
  readonly film: Film;
  readonly size: SizePx;
  /** Where a track's footage is. @throws when it is missing */
  readonly mediaOf: (trackId: string) => MediaFile;
  readonly cache: PieceCache;
  /** The MP4 to write; it appears when it is whole. */
  readonly out: string;
  readonly title: string;
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: Progress) => void;
  /** Chunks rendered at a time. Each keeps about one core busy. */
  readonly atOnce?: number;
}

export interface FilmReport {
  readonly chunks: number;
  /** Chunks that were not in the cache. */
  readonly rendered: number;
}

/** Share of the work that the sound is taken for, in frames of picture. */
const SOUND_WEIGHT = 0.04;

/** Counts work done against all that has to be done, and tells the time left. */
const progressOf = (total: number, tell: (progress: Progress) => void) => {
  const began = Date.now();
  let done = 0;
  return (more: number, doing: Progress['doing']) => {
    done += more;
    const share = total > 0 ? Math.min(1, done / total) : 1;
    const spentUs = (Date.now() - began) * 1000;
    const leftUs = share > 0.02 ? Math.round((spentUs * (1 - share)) / share) : null;
    tell({ done: share, doing, leftUs });
  };
};

/** Runs jobs a few at a time; the first failure stops the rest. */
const inTurns = async (
  jobs: readonly (() => Promise<void>)[],
  atOnce: number,
  stop: AbortController,
): Promise<void> => {
  const waiting = jobs.values();
  const turn = async () => {
    for (const job of waiting) {
      stop.signal.throwIfAborted();
      await job();
    }
  };
  const turns = Array.from({ length: atOnce }, turn);
  try {
    await Promise.all(turns);
  } catch (error) {
    stop.abort(error);
    await Promise.allSettled(turns);
    throw error;
  }
};

/** Joins chunks and sound by copying; the index goes to the front, so that it plays while it loads. */
const joinPieces = async (
  pieces: readonly { path: string; frames: number }[],
  sound: string,
  job: FilmJob,
): Promise<void> => {
  const folder = await mkdtemp(join(dirname(job.out), 'join-'));
  try {
    const list = join(folder, 'chunks.txt');
    // Names are hexadecimal, so nothing in them needs quoting; the folder is ours.
    const lines = pieces.flatMap(({ path, frames }) => [
      `file '${path.replace(/'/g, `'\\''`)}'`,
      `duration ${(frames / FILM_FPS).toFixed(6)}`,
    ]);
    await writeFile(list, ['ffconcat version 1.0', ...lines, ''].join('\n'));
    const chapters = join(folder, 'chapters.txt');
    await writeFile(chapters, chapterFile(chaptersOf(job.film)));
    const whole = join(folder, 'film.mp4');
    await run(
      'ffmpeg',
      [
        '-protocol_whitelist',
        'file,pipe',
        '-f',
        'concat',
        '-safe',
        '0',
        '-i',
        list,
        '-protocol_whitelist',
        'file,pipe',
        '-f',
        'mov',
        '-i',
        sound,
        '-protocol_whitelist',
        'file',
        '-f',
        'ffmetadata',
        '-i',
        chapters,
        '-map',
        '0:v:0',
        '-map',
        '1:a:0',
        '-map_chapters',
        '2',
        '-c',
        'copy',
        '-video_track_timescale',
        '30000',
        '-metadata',
        `title=${job.title}`,
        '-movflags',
        '+faststart',
        '-f',
        'mp4',
        whole,
      ],
      job.signal,
    );
    await checkFilm(whole, job.film.frames, job.signal);
    await rename(whole, job.out);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

/**
 * Makes the MP4 of a film: renders the chunks and the sound that are not there yet, and joins them.
 * What is finished stays in the cache, so that a run that was broken off goes on where it was.
 *
 * @throws RangeError when the film is empty; FfmpegError when a chunk can't be made; FilmCheckError when the
 *   film came out otherwise than planned; the signal's reason when aborted
 */
export const renderFilm = async (job: FilmJob): Promise<FilmReport> => {
  const { film, size, cache } = job;
  if (film.frames === 0) throw new RangeError('the film is empty');
  const stop = new AbortController();
  const signal = job.signal ? AbortSignal.any([job.signal, stop.signal]) : stop.signal;

  const pieces = planChunks(film).map((chunk) => ({
    chunk,
    frames: chunk.endFrame - chunk.startFrame,
    path: cache.pathOf(keyText(chunk, size, VIDEO_ENCODER), 'mp4'),
  }));
  const missing = new Map<string, Chunk>();
  for (const { path, chunk } of pieces) {
    if (!missing.has(path) && !(await cache.has(path))) missing.set(path, chunk);
  }
  const sound = cache.pathOf(soundText(film), 'm4a');
  const soundMissing = !(await cache.has(sound));

  const frames = countFrames([...missing.values()]);
  const soundFrames = film.frames * SOUND_WEIGHT;
  const progress = progressOf(
    frames + (soundMissing ? soundFrames : 0) + film.frames * 0.01,
    job.onProgress ?? (() => undefined),
  );
  const jobs = [...missing].map(
    ([path, chunk]) =>
      () =>
        cache.make(path, (draft) =>
          renderChunk(
            chunk,
            {
              film,
              size,
              mediaOf: job.mediaOf,
              signal,
              onFrames: (more) => progress(more, 'pictures'),
            },
            draft,
          ),
        ),
  );
  if (soundMissing) {
    const samples = frameToSample(film.frames, SOUND_RATE);
    jobs.unshift(() =>
      cache.make(sound, (draft) => {
        let last = 0;
        const onSamples = (done: number) => {
          progress(((done - last) / samples) * soundFrames, frames > 0 ? 'pictures' : 'sound');
          last = done;
        };
        return renderSound(film, job.mediaOf, draft, onSamples, signal);
      }),
    );
  }
  await inTurns(jobs, job.atOnce ?? 2, stop);
  progress(0, 'joining');
  await joinPieces(pieces, sound, job);
  progress(Number.POSITIVE_INFINITY, 'joining');
  return { chunks: pieces.length, rendered: missing.size };
};
