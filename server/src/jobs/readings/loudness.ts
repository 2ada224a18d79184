import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Take, Track } from '@under-chalk/core/lesson/take';
import type { Loudness, LoudnessOf } from '@under-chalk/core/sound/levelling';
import { openOptions, run, type Limits, type MediaFile } from '@under-chalk/render';
import pLimit from 'p-limit';
import * as z from 'zod';
import type { MediaStore } from '../../store/media-store';
import { keepRead, readKept } from './kept-reading';

/** Version of how it is measured: what was measured otherwise is measured anew. */
const VERSION = 1;
const LIMITS: Limits = { quietMs: 30_000, deadlineMs: 1_800_000, memoryBytes: 3e9 };
/** What ffmpeg says where nothing was over the absolute gate of EBU R 128. */
const GATE_LUFS = -70;

const readingSchema = z.object({
  version: z.literal(VERSION),
  /** Digest of the sound that was measured. */
  of: z.string(),
  lufs: z.number().nullable(),
});

/** Integrated loudness of a sound track as films have it: in stereo. LUFS; null where there is nothing to measure. */
const measured = async (media: MediaFile, signal?: AbortSignal): Promise<number | null> => {
  const meter = 'ebur128=metadata=1:framelog=verbose';
  const told = 'ametadata=mode=print:key=lavfi.r128.I:file=-';
  const text = await run(
    'ffmpeg',
    [
      ...[...openOptions(media), '-vn', '-i', media.path, '-map', '0:a:0'],
      ...['-af', `aresample=48000,aformat=channel_layouts=stereo,${meter},${told}`],
      ...['-f', 'null', '-'],
    ],
    signal,
    LIMITS,
  );
  const lufs = Number(/lavfi\.r128\.I=(\S+)\s*$/.exec(text.toString('latin1').trimEnd())?.[1]);
  return Number.isFinite(lufs) && lufs > GATE_LUFS ? lufs : null;
};

/** One at a time: it isn't urgent, and a core is busy with it. */
const inTurn = pLimit(1);
const measuring = new Map<string, Promise<Loudness>>();

const measureAndKeep = async (
  media: MediaStore,
  track: Track,
  signal?: AbortSignal,
): Promise<Loudness> => {
  const lufs = await measured(media.media(track.id), signal);
  await keepRead(media, media.loudness(track.id), { version: VERSION, of: track.digest, lufs });
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
    work = inTurn(() => measureAndKeep(media, track, signal)).finally(() => measuring.delete(name));
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
