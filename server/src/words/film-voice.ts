import { AppError } from '@under-chalk/core/errors/errors';
import type { Film } from '@under-chalk/core/film/film';
import { cardPlaceOf } from '@under-chalk/core/lesson/title-card';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Take } from '@under-chalk/core/lesson/take';
import { frameToUs } from '@under-chalk/core/time/frames';
import type { Us } from '@under-chalk/core/time/us';
import type { HeardPiece } from '@under-chalk/core/words/align/heard-cues';
import { decodeRecordedSound, type Limits } from '@under-chalk/render';
import { open, rm, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import type { MediaStore } from '../store/media-store';
import { BYTES, HEARD_RATE, sampleAt } from './sound-file';

/** What is said in a film, as one file of samples. */
export interface FilmVoice {
  readonly path: string;
  readonly durationUs: Us;
  readonly pieces: readonly HeardPiece[];
}

const LIMITS: Limits = { quietMs: 30_000, deadlineMs: 1_800_000, memoryBytes: 3e9 };
/** Where a take's words are heard: in its voice, else in whatever sound it has. */
export const voiceTrackOf = (take: Take) => {
  const sounds = ofMedium(take.tracks, 'sound');
  return sounds.find(({ kind }) => kind === 'voice') ?? sounds[0];
};

/** Writes all of a take's voice as 16-bit samples. */
const writeTake = async (
  take: Take,
  path: string,
  media: MediaStore,
  signal?: AbortSignal,
): Promise<void> => {
  const track = voiceTrackOf(take);
  const file = await open(path, 'w');
  try {
    if (!track) return;
    if (!media.hasMedia(track.id)) throw new AppError('footage-missing', `track ${track.id}`);
    const decoder = decodeRecordedSound(
      media.media(track.id),
      { rate: HEARD_RATE, channels: 1 },
      signal,
      LIMITS,
    );
    let held: Buffer = Buffer.alloc(0);
    for await (const part of decoder.stdout as AsyncIterable<Buffer>) {
      held = held.length > 0 ? Buffer.concat([held, part]) : part;
      const whole = Math.floor(held.length / 4);
      const samples = Buffer.alloc(whole * BYTES);
      for (let at = 0; at < whole; at++) {
        const value = Math.max(-1, Math.min(1, held.readFloatLE(at * 4)));
        samples.writeInt16LE(Math.round(value * 32_767), at * BYTES);
      }
      held = held.subarray(whole * 4);
      await file.write(samples);
    }
    await decoder.ended;
  } finally {
    await file.close();
  }
};

const copy = async (from: FileHandle, out: FileHandle, first: number, count: number) => {
  // What the sound lacks at its end is silence.
  const samples = Buffer.alloc(count * BYTES);
  await from.read(samples, 0, samples.length, first * BYTES);
  await out.write(samples);
};

/**
 * Writes what is said in a film into a file of samples, as it was recorded: cuts are made, speeds aren't.
 *
 * @param folder takes the file; what else is written there goes again
 * @throws AppError `footage-missing`; FfmpegError; the signal's reason
 */
export const filmVoice = async (
  film: Film,
  media: MediaStore,
  folder: string,
  signal?: AbortSignal,
): Promise<FilmVoice> => {
  const path = join(folder, 'voice.raw');
  const spans = film.spans.filter(({ take }) => !cardPlaceOf(take));
  const takes = new Map(spans.map(({ take }) => [take.id, take]));
  const files = new Map<string, FileHandle>();
  const out = await open(path, 'w');
  const pieces: HeardPiece[] = [];
  let samples = 0;
  try {
    for (const take of takes.values()) {
      const own = join(folder, `${take.id}.raw`);
      await writeTake(take, own, media, signal);
      files.set(take.id, await open(own, 'r'));
    }
    for (const span of spans) {
      signal?.throwIfAborted();
      const [startUs, endUs] = [frameToUs(span.startFrame), frameToUs(span.endFrame)];
      const first = sampleAt(startUs);
      const count = sampleAt(endUs) - first;
      const atUs = Math.round((samples * 1e6) / HEARD_RATE);
      pieces.push({ takeId: span.take.id, startUs, endUs, atUs });
      await copy(files.get(span.take.id)!, out, first, count);
      samples += count;
    }
  } finally {
    await out.close();
    for (const [id, file] of files) {
      await file.close();
      await rm(join(folder, `${id}.raw`), { force: true });
    }
  }
  return { path, durationUs: Math.round((samples * 1e6) / HEARD_RATE), pieces };
};
