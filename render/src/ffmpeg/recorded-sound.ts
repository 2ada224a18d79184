import { US_PER_SECOND } from '@under-chalk/core/time/us';
import { onTheClock, openOptions, seekTo, start, type MediaFile, type Running } from './run';
import type { Limits } from './limited';

/** How recorded sound is wanted. */
export interface WantedSound {
  /** Samples a second. */
  readonly rate: number;
  readonly channels: number;
  /** First sample wanted, counted from recorded time 0. */
  readonly fromSample?: number;
  /** How many are wanted; all that follow when it isn't said. */
  readonly samples?: number;
}

/**
 * A decoder is opened at least this long before the first sample wanted: its first packets are not whole. And at a
 * whole second, where a sample begins whatever the recording's rate. Seconds.
 */
const LEAD = 1;

/**
 * Decodes a sound track to 32-bit floats (little-endian, channels interleaved) in recorded time: gaps
 * filled and drift taken out by its timestamps. It is read from where it is needed.
 */
export const decodeRecordedSound = (
  media: MediaFile,
  { rate, channels, fromSample = 0, samples }: WantedSound,
  signal?: AbortSignal,
  limits: Limits = {},
): Running => {
  const opened = Math.max(0, Math.floor(fromSample / rate) - LEAD) * rate;
  const trim = [
    `start_sample=${fromSample - opened}`,
    ...(samples === undefined ? [] : [`end_sample=${fromSample - opened + samples}`]),
  ].join(':');
  const running = start(
    'ffmpeg',
    [
      ...openOptions(media),
      ...(opened > 0 ? seekTo(Math.round((opened * US_PER_SECOND) / rate)) : []),
      '-vn',
      // Timestamps are recorded time: without this ffmpeg moves the first one to 0.
      '-copyts',
      '-i',
      media.path,
      '-map',
      '0:a:0',
      '-af',
      // The first sample is that of the time it was opened at, whatever the first timestamp.
      `${onTheClock(rate, opened)},atrim=${trim},asetpts=N/SR/TB`,
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

const FLOAT_BYTES = 4;

/** What a decoder writes as floats, in parts of whole frames (a sample of each channel), as they come. @throws as its end does */
export async function* floatsOf(decoder: Running, channels: number): AsyncGenerator<Float32Array> {
  const frame = FLOAT_BYTES * channels;
  let left: Buffer = Buffer.alloc(0);
  for await (const bytes of decoder.stdout as AsyncIterable<Buffer>) {
    left = left.length > 0 ? Buffer.concat([left, bytes]) : bytes;
    const whole = left.length - (left.length % frame);
    if (whole === 0) continue;
    const part = new Float32Array(whole / FLOAT_BYTES);
    // Copied, so that the floats lie on their border.
    Buffer.from(part.buffer).set(left.subarray(0, whole));
    left = left.subarray(whole);
    yield part;
  }
  await decoder.ended;
}
