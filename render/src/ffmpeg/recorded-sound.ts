import { onTheClock, openOptions, start, type MediaFile, type Running } from './run';
import type { Limits } from './limited';

/** How recorded sound is wanted. */
export interface WantedSound {
  /** Samples a second. */
  readonly rate: number;
  readonly channels: number;
  /** First sample wanted, counted from recorded time 0. */
  readonly fromSample?: number;
}

/**
 * Decodes a sound track to 32-bit floats (little-endian, channels interleaved) in recorded time: gaps
 * filled and drift taken out by its timestamps.
 */
export const decodeRecordedSound = (
  media: MediaFile,
  { rate, channels, fromSample = 0 }: WantedSound,
  signal?: AbortSignal,
  limits: Limits = {},
): Running => {
  const running = start(
    'ffmpeg',
    [
      ...openOptions(media),
      '-vn',
      // Timestamps are recorded time: without this ffmpeg moves the first one to 0.
      '-copyts',
      '-i',
      media.path,
      '-map',
      '0:a:0',
      '-af',
      // Sample 0 is recorded time 0, whatever the first timestamp; then what is not wanted is skipped.
      `${onTheClock(rate)},atrim=start_sample=${fromSample},asetpts=N/SR/TB`,
      '-ac',
      String(channels),
      '-f',
      'f32le',
      'pipe:1',
    ],
    signal,
    limits,
  );
  running.stdin.end();
  return running;
};
