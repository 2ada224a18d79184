import { levelOf } from '@under-chalk/core/sound/level';
import { LEVEL_STEP_US, toLevelByte, type LevelLine } from '@under-chalk/core/sound/level-line';
import {
  decodeRecordedSound,
  type Limits,
  type MediaFile,
  type Running,
} from '@under-chalk/render';

export const LEVEL_LIMITS: Limits = { quietMs: 20_000, deadlineMs: 3_600_000, memoryBytes: 3e9 };
/** What it is measured of: so many samples a second, in one channel. */
export const LEVEL_SOUND = { rate: 16_000, channels: 1 };
const STEP = (LEVEL_SOUND.rate * LEVEL_STEP_US) / 1_000_000;

/** A take is a day at most. */
const MOST_LEVELS = (86_400 * 1_000_000) / LEVEL_STEP_US;

/**
 * Measures the loudness of a sound track over recorded time, for a day at most. Empty when nothing in it
 * can be decoded.
 *
 * @throws FfmpegError, FfmpegTimeout; or the signal's reason
 */
export const measureLevels = async (
  media: MediaFile,
  signal?: AbortSignal,
  limits: Limits = LEVEL_LIMITS,
): Promise<LevelLine> => levelsOf(decodeRecordedSound(media, LEVEL_SOUND, signal, limits));

/** The loudness of what a decoder writes: 32-bit floats of {@link LEVEL_SOUND}. */
export const levelsOf = async (decoder: Running): Promise<LevelLine> => {
  const levels: number[] = [];
  let held: Buffer = Buffer.alloc(0);
  const stepBytes = STEP * 4;
  for await (const part of decoder.stdout as AsyncIterable<Buffer>) {
    held = held.length > 0 ? Buffer.concat([held, part]) : part;
    const whole = Math.floor(held.length / stepBytes);
    // Copied, so that the floats lie on their border.
    const samples = new Float32Array(whole * STEP);
    Buffer.from(samples.buffer).set(held.subarray(0, whole * stepBytes));
    held = held.subarray(whole * stepBytes);
    if (levels.length > MOST_LEVELS) {
      decoder.kill();
      return Uint8Array.from(levels);
    }
    for (let step = 0; step < whole; step++) {
      levels.push(toLevelByte(levelOf(samples.subarray(step * STEP, (step + 1) * STEP)).rmsDbfs));
    }
  }
  await decoder.ended;
  return Uint8Array.from(levels);
};
