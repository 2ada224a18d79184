import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Take, Track } from '@under-chalk/core/lesson/take';
import { toDbfs } from '@under-chalk/core/sound/level';
import type { FilmLoudness, Loudness, LoudnessOf } from '@under-chalk/core/sound/levelling';
import {
  feed,
  openOptions,
  run,
  start,
  type Demuxer,
  type Limits,
  type MediaFile,
  type Running,
} from '@under-chalk/render';
import pLimit from 'p-limit';
import * as z from 'zod';
import { heavyWork } from '../heavy-work';
import type { MediaStore } from '../../store/media-store';
import { keepRead, readKept } from './kept-reading';

/** Version of how it is measured: what was measured otherwise is measured anew. */
const VERSION = 1;
const LIMITS: Limits = { quietMs: 30_000, deadlineMs: 1_800_000, memoryBytes: 3e9 };
/** Enough of what it says for all of its last word. */
const TAIL_BYTES = 4_000;
/** What ffmpeg says where nothing was over the absolute gate of EBU R 128. */
const GATE_LUFS = -70;

const readingSchema = z.object({
  version: z.literal(VERSION),
  /** Digest of the sound that was measured. */
  of: z.string(),
  lufs: z.number().nullable(),
});

/** What ffmpeg's meter of EBU R 128 is told, for what films have: stereo. It speaks of each 100 ms, on its standard output. */
const filterOf = (peak: boolean): string =>
  `aresample=48000,aformat=channel_layouts=stereo,ebur128=metadata=1:framelog=verbose${peak ? ':peak=true' : ''},ametadata=mode=print:file=-`;

/** The last that the meter said of something; NaN: nothing. */
const lastIn = (told: string, key: string): number =>
  Number([...told.matchAll(new RegExp(`lavfi\\.r128\\.${key}=(\\S+)`, 'g'))].at(-1)?.[1]);

const heardLufs = (lufs: number): number | null =>
  Number.isFinite(lufs) && lufs > GATE_LUFS ? lufs : null;

/** Measures how loud a sound is while it comes in: what is fed to it is what a file would have. */
export class LoudnessMeter {
  readonly #ffmpeg: Running;
  #tail = '';

  constructor(demuxer: Demuxer, limits: Limits) {
    const from = openOptions({ path: 'pipe:0', demuxer });
    this.#ffmpeg = start(
      'ffmpeg',
      [...from, '-i', 'pipe:0', '-map', '0:a:0', '-af', filterOf(false), '-f', 'null', '-'],
      undefined,
      limits,
    );
    this.#ffmpeg.stdout.setEncoding('latin1').on('data', (text: string) => {
      this.#tail = (this.#tail + text).slice(-TAIL_BYTES);
    });
  }

  feed(bytes: Uint8Array): Promise<void> {
    return feed(this.#ffmpeg, bytes);
  }

  /** Integrated loudness of all that was fed, LUFS; null where nothing is heard in it. @throws FfmpegError */
  async end(): Promise<number | null> {
    this.#ffmpeg.stdin.end();
    await this.#ffmpeg.ended;
    return heardLufs(lastIn(this.#tail, 'I'));
  }

  drop(): void {
    this.#ffmpeg.kill();
  }
}

/** What the meter says of a file's sound: its last word of each. */
const meter = async (
  media: MediaFile,
  keys: readonly string[],
  signal?: AbortSignal,
): Promise<number[]> => {
  const peak = keys.some((key) => key.startsWith('true_peaks'));
  const text = await run(
    'ffmpeg',
    [
      ...[...openOptions(media), '-vn', '-i', media.path, '-map', '0:a:0'],
      ...['-af', filterOf(peak), '-f', 'null', '-'],
    ],
    signal,
    LIMITS,
  );
  const tail = text.subarray(-TAIL_BYTES).toString('latin1');
  return keys.map((key) => lastIn(tail, key));
};

/** Integrated loudness of a sound track, LUFS; null where there is nothing to measure. */
const measured = async (media: MediaFile, signal?: AbortSignal): Promise<number | null> => {
  const [lufs] = await meter(media, ['I'], signal);
  return heardLufs(lufs!);
};

/** One at a time: it isn't urgent, and a core is busy with it. */
const inTurn = pLimit(1);
const measuring = new Map<string, Promise<Loudness>>();

/** Keeps how loud a sound track is beside it. */
export const keepLoudness = (
  media: MediaStore,
  { id, digest }: Pick<Track, 'id' | 'digest'>,
  { lufs }: Loudness,
): Promise<void> => keepRead(media, media.loudness(id), { version: VERSION, of: digest, lufs });

const measureAndKeep = async (
  media: MediaStore,
  track: Track,
  signal?: AbortSignal,
): Promise<Loudness> => {
  const lufs = await measured(media.media(track.id), signal);
  await keepLoudness(media, track, { lufs });
  return { lufs };
};

/** How loud a sound track is: as it was measured, or measured now, and kept beside it. @throws FfmpegError */
const loudnessOfTrack = async (
  media: MediaStore,
  track: Track,
  signal?: AbortSignal,
): Promise<Loudness> => {
  const before = await readKept(media.loudness(track.id), readingSchema, track.digest);
  if (before) return { lufs: before.lufs };
  const name = `${media.loudness(track.id)} ${track.digest}`;
  let work = measuring.get(name);
  if (!work) {
    work = inTurn(() =>
      heavyWork.run('sound', () => measureAndKeep(media, track, signal), signal),
    ).finally(() => measuring.delete(name));
    measuring.set(name, work);
  }
  return work;
};

/**
 * How loud the sound tracks of some takes are. One that can't be measured stays as it is.
 *
 * @throws the signal's reason
 */
export const loudnessOfTakes = async (
  takes: Iterable<Take>,
  media: MediaStore,
  signal?: AbortSignal,
): Promise<LoudnessOf> => {
  const found = new Map<string, Loudness>();
  for (const take of takes) {
    for (const track of ofMedium(take.tracks, 'sound')) {
      const loudness = await loudnessOfTrack(media, track, signal).catch(() => null);
      signal?.throwIfAborted();
      if (loudness) found.set(track.id, loudness);
    }
  }
  return (trackId) => found.get(trackId) ?? null;
};

const filmSchema = z.object({
  version: z.literal(VERSION),
  of: z.string(),
  lufs: z.number().nullable(),
  peakDbtp: z.number().nullable(),
});

/**
 * How loud a finished film is, and its highest peak: measured once, and kept beside it. For what is told and nothing else: no
 * film waits for it.
 *
 * @throws FfmpegError
 */
export const loudnessOfFilm = async (media: MediaStore, filmId: string): Promise<FilmLoudness> => {
  const path = media.filmLoudness(filmId);
  const before = await readKept(path, filmSchema, filmId);
  if (before) return { lufs: before.lufs, peakDbtp: before.peakDbtp };
  return inTurn(async () => {
    const file: MediaFile = { path: media.film(filmId), demuxer: 'mov' };
    const [lufs, ...peaks] = await meter(file, ['I', 'true_peaks_ch0', 'true_peaks_ch1']);
    const heard = heardLufs(lufs!);
    const found = {
      lufs: heard,
      peakDbtp: heard === null ? null : toDbfs(Math.max(...peaks)),
    };
    await keepRead(media, path, { version: VERSION, of: filmId, ...found });
    return found;
  });
};
