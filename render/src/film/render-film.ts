import { FILM_FPS } from '@under-chalk/core/time/frames';
import { NO_INK, type InkOf } from '@under-chalk/core/ink/changed-track';
import type { Track } from '@under-chalk/core/lesson/take';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { writeWebVtt } from '@under-chalk/core/words/files/web-vtt';
import { threeLettersOf } from '@under-chalk/core/words/language';
import { appendFile, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { SOUND_RATE } from '../ffmpeg/encoder';
import { run, type MediaFile } from '../ffmpeg/run';
import type { FilmPlan, Piece } from '../plan/plan-film';
import { PACKET } from '../plan/sound';
import type { PieceCache } from './cache';
import { chapterFile } from './chapter-file';
import { checkFilm } from './check-film';
import { inTurns, type Missing } from './in-turns';
import type { AskedPieces } from './piece-order';
import type { PageFile } from '../paths/pages';
import { renderChunk } from './render-chunk';
import { renderSound, type SoundFileOf } from './render-sound';

export interface Progress {
  /** 0 to 1. */
  readonly done: number;
  readonly doing: 'pictures' | 'sound' | 'joining';
  /** Time left at the speed so far, µs; null until there is a speed. */
  readonly leftUs: number | null;
}

export interface FilmJob {
  readonly plan: FilmPlan;
  /** Where a track's footage is. @throws when it is missing */
  readonly mediaOf: (trackId: string) => MediaFile;
  /** Where the sound of a track is without the room it was recorded in; needed where any is to be heard so. */
  readonly noiseReducedOf?: (track: Track, reduction: NoiseReduction) => MediaFile;
  /** What was written while its takes were recorded. */
  readonly inkOf?: InkOf;
  /** Makes pictures of the pages of materials that are written on; needed where there are any. */
  readonly pageFile?: PageFile;
  /** Its cover, a JPEG, made when the rest is; without it, or where none can be made, the MP4 has none. */
  readonly coverFile?: () => Promise<string | null>;
  readonly cache: PieceCache;
  /** The MP4 to write; it appears when it is whole. */
  readonly out: string;
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: Progress) => void;
  /** Pieces made at a time. Each keeps about one core busy. */
  readonly atOnce?: number;
  /** Waits for this film's turn among others before each piece. @returns gives the turn back */
  readonly turn?: () => Promise<() => void>;
  /** Pieces that somebody waits for, asked for while it is being made. */
  readonly asked?: AskedPieces;
}

export interface FilmReport {
  /** Pieces of the film, pictures and sound, and how many of them were not in the cache. */
  readonly pieces: number;
  readonly rendered: number;
}

/** Work that a packet of sound is taken for, in frames of picture. */
const PACKET_WEIGHT = 0.03;
/** Work of putting a film together, in frames of picture for each of its frames. */
const JOIN_WEIGHT = 0.01;

const noneReduced = ({ id }: Track): MediaFile => {
  throw new Error(
    `nothing is at hand that the room was taken from, and track ${id} is to be heard so`,
  );
};

const noPages: PageFile = ({ content }) =>
  Promise.reject(new Error(`no material is at hand, and ${content} is shown`));

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

/** How far an encoder's first packet lies before its first sample, as ffmpeg takes it. */
const PRIMING = `-${(PACKET / SOUND_RATE).toFixed(6)}`;

/** Joins chunks and sound by copying; the index goes to the front, so that it plays while it loads. */
const joinPieces = async (
  chunks: readonly Kept[],
  sound: readonly Kept[],
  job: FilmJob,
): Promise<void> => {
  const { manifest } = job.plan;
  const folder = await mkdtemp(join(dirname(job.out), 'join-'));
  try {
    const list = join(folder, 'chunks.txt');
    // Names are hexadecimal, so nothing in them needs quoting; the folder is ours.
    const lines = chunks.flatMap(({ path, frames }) => [
      `file '${path.replace(/'/g, `'\\''`)}'`,
      `duration ${(frames / FILM_FPS).toFixed(6)}`,
    ]);
    await writeFile(list, ['ffconcat version 1.0', ...lines, ''].join('\n'));
    const packets = join(folder, 'sound.aac');
    for (const { path } of sound) await appendFile(packets, await readFile(path));
    const chapters = join(folder, 'chapters.txt');
    await writeFile(chapters, chapterFile(manifest.chapters));
    const words = await Promise.all(
      (manifest.words ?? []).map(async ({ language, cues }, index) => {
        const path = join(folder, `words-${index}.vtt`);
        await writeFile(path, writeWebVtt(cues, language));
        return { path, language };
      }),
    );
    const cover = await job.coverFile?.();
    const whole = join(folder, 'film.mp4');
    await run(
      'ffmpeg',
      [
        ...['-protocol_whitelist', 'file,pipe', '-f', 'concat', '-safe', '0', '-i', list],
        // The first packet only opens the second: an edit list leaves it out.
        ...['-protocol_whitelist', 'file,pipe', '-itsoffset', PRIMING, '-f', 'aac', '-i', packets],
        ...['-protocol_whitelist', 'file', '-f', 'ffmetadata', '-i', chapters],
        ...words.flatMap(({ path }) => [
          ...['-protocol_whitelist', 'file', '-f', 'webvtt', '-i', path],
        ]),
        ...(cover ? ['-protocol_whitelist', 'file', '-f', 'jpeg_pipe', '-i', cover] : []),
        ...['-map', '0:v:0', '-map', '1:a:0', '-map_chapters', '2', '-c', 'copy'],
        // Timed text (3GPP TS 26.245), which players offer to switch on.
        ...words.flatMap(({ language }, index) => [
          ...['-map', `${index + 3}:s:0`, `-c:s:${index}`, 'mov_text'],
          ...[`-metadata:s:s:${index}`, `language=${threeLettersOf(language)}`],
          ...[`-disposition:s:${index}`, '0'],
        ]),
        // The picture that players and file managers show for it.
        ...(cover ? ['-map', `${words.length + 3}:v:0`, '-disposition:v:1', 'attached_pic'] : []),
        ...['-video_track_timescale', '30000', '-metadata', `title=${manifest.title}`],
        ...(manifest.licence
          ? [
              '-metadata',
              `copyright=${[manifest.licence.line, manifest.licence.url].filter(Boolean).join(' ')}`,
            ]
          : []),
        ...['-movflags', '+faststart', '-f', 'mp4', whole],
      ],
      job.signal,
    );
    await checkFilm(whole, manifest.frames, job.signal);
    await rename(whole, job.out);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

/** A piece, and where it is kept. */
interface Kept extends Piece {
  readonly path: string;
  readonly index: number;
  /** Frame, or packet, of the film that it begins with. */
  readonly from: number;
}

/** The pieces that are not in the cache yet, each once. */
const missingOf = async (pieces: readonly Kept[], cache: PieceCache): Promise<Kept[]> => {
  const missing = new Map<string, Kept>();
  for (const piece of pieces) {
    if (!missing.has(piece.path) && !(await cache.has(piece.path))) missing.set(piece.path, piece);
  }
  return [...missing.values()];
};

/** Where a piece of a film's pictures is kept, and one of its sound: MP4, and packets of AAC in ADTS frames. */
export const chunkPath = (cache: PieceCache, key: string): string => cache.pathOf(key, 'mp4');
export const soundPath = (cache: PieceCache, key: string): string => cache.pathOf(key, 'aac');

const FRAMES_A_PACKET = (PACKET * FILM_FPS) / SOUND_RATE;

const framesOf = (pieces: readonly Piece[]): number =>
  pieces.reduce((sum, { frames }) => sum + frames, 0);

/**
 * Makes the MP4 of a film: renders the pieces that are not there yet, and joins them. What is finished stays in
 * the cache, so that a run that was broken off goes on where it was.
 *
 * @throws RangeError when the film is empty; FfmpegError when a piece can't be made; FilmCheckError when the
 *   film came out otherwise than planned; the signal's reason when aborted
 */
export const renderFilm = async (job: FilmJob): Promise<FilmReport> => {
  const {
    plan,
    cache,
    mediaOf,
    inkOf = NO_INK,
    pageFile = noPages,
    noiseReducedOf = noneReduced,
  } = job;
  const soundOf: SoundFileOf = (track, reduction) =>
    reduction ? noiseReducedOf(track, reduction) : mediaOf(track.id);
  const { manifest } = plan;
  if (manifest.frames === 0) throw new RangeError('the film is empty');
  const stop = new AbortController();
  const signal = job.signal ? AbortSignal.any([job.signal, stop.signal]) : stop.signal;
  const keptAs = (pieces: readonly Piece[], pathOf: (piece: Piece) => string): Kept[] => {
    let from = 0;
    return pieces.map((piece, index) => {
      const kept = { ...piece, index, from, path: pathOf(piece) };
      from += piece.frames;
      return kept;
    });
  };
  const chunks = keptAs(manifest.chunks, ({ key }) => chunkPath(cache, key));
  const sound = keptAs(manifest.sound, ({ key }) => soundPath(cache, key));
  const missing = await missingOf(chunks, cache);
  const missingSound = await missingOf(sound, cache);
  const progress = progressOf(
    framesOf(missing) + framesOf(missingSound) * PACKET_WEIGHT + manifest.frames * JOIN_WEIGHT,
    job.onProgress ?? (() => undefined),
  );
  const pictureMissing = ({ path, index, from }: Kept): Missing => ({
    ...{ of: 'picture', index, frame: from },
    make: (background) => {
      const onFrames = (more: number) => progress(more, 'pictures');
      const how = { mediaOf, inkOf, pageFile, signal, onFrames, background };
      return cache.make(path, (draft) => renderChunk(plan.chunkWork(index), how, draft));
    },
  });
  const soundMissing = ({ path, index, frames, from }: Kept): Missing => ({
    ...{ of: 'sound', index, frame: Math.floor(from * FRAMES_A_PACKET) },
    make: async (background) => {
      await cache.make(path, async (draft) =>
        writeFile(draft, await renderSound(plan.soundWork(index), soundOf, signal, background)),
      );
      progress(frames * PACKET_WEIGHT, missing.length > 0 ? 'pictures' : 'sound');
    },
  });
  await inTurns([...missingSound.map(soundMissing), ...missing.map(pictureMissing)], job, stop);
  progress(0, 'joining');
  await joinPieces(chunks, sound, { ...job, signal });
  progress(Number.POSITIVE_INFINITY, 'joining');
  return {
    pieces: chunks.length + sound.length,
    rendered: missing.length + missingSound.length,
  };
};
