import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import {
  LISTENED,
  NoiseListener,
  type NoiseProfile,
} from '@under-chalk/core/sound/noise-reduction/noise-profile';
import { NOISE_REDUCTION_RATE } from '@under-chalk/core/sound/noise-reduction/rate';
import { NoiseReducer } from '@under-chalk/core/sound/noise-reduction/noise-reducer';
import type { Us } from '@under-chalk/core/time/us';
import type { Limits } from '../ffmpeg/limited';
import { decodeRecordedSound, floatsOf } from '../ffmpeg/recorded-sound';
import { feed, start, type MediaFile } from '../ffmpeg/run';

const LIMITS: Limits = { quietMs: 60_000, memoryBytes: 3e9 };
const CHANNELS = 2;
/** Its bytes: a voice that was once encoded already. Both channels have the same. */
const ENCODER = ['-c:a', 'aac', '-b:a', '160k'];

/** What is to have its noise reduced. */
export interface SoundWithNoise {
  readonly media: MediaFile;
  readonly reduction: NoiseReduction;
  readonly signal?: AbortSignal;
}

const inSamples = (us: Us): number => Math.round((us * NOISE_REDUCTION_RATE) / 1e6);

/** Decodes some of a track in pieces, as films have it: both channels. @param onPart told of each */
const decode = async (
  { media, signal }: SoundWithNoise,
  fromSample: number,
  samples: number | undefined,
  onPart: (interleaved: Float32Array) => void | Promise<void>,
): Promise<void> => {
  const wanted = { rate: NOISE_REDUCTION_RATE, channels: CHANNELS, fromSample };
  const decoder = decodeRecordedSound(
    media,
    samples === undefined ? wanted : { ...wanted, samples },
    signal,
    LIMITS,
  );
  try {
    for await (const part of floatsOf(decoder, CHANNELS)) await onPart(part);
  } finally {
    decoder.kill();
  }
};

/** The middle of both channels. */
const middleOf = (interleaved: Float32Array): Float32Array =>
  Float32Array.from(
    { length: interleaved.length / CHANNELS },
    (_, at) => (interleaved[2 * at]! + interleaved[2 * at + 1]!) / 2,
  );

/** What was found out about a track before it has its noise reduced. */
interface Heard {
  readonly profile: NoiseProfile;
  /** What the middle of both channels is to be made louder by, to be as loud as both. */
  readonly factor: number;
  readonly samples: number;
}

const listen = async (
  work: SoundWithNoise,
  from: number,
  samples: number | undefined,
  onSamples: (count: number) => void,
): Promise<Heard> => {
  const listener = new NoiseListener(from);
  let [both, middle, count] = [0, 0, 0];
  await decode(work, from, samples, (part) => {
    const mono = middleOf(part);
    for (let at = 0; at < part.length; at++) both += part[at]! ** 2;
    for (let at = 0; at < mono.length; at++) middle += 2 * mono[at]! ** 2;
    count += mono.length;
    listener.next(mono);
    onSamples(mono.length);
  });
  const factor = middle > 0 ? Math.min(2, Math.sqrt(both / middle)) : 1;
  return { profile: listener.finish(), factor, samples: count };
};

const louder = (samples: Float32Array, factor: number): Float32Array =>
  factor === 1 ? samples : samples.map((sample) => sample * factor);

/**
 * Takes the room from under all of a sound track: a file of one stream of AAC, on the clock of its take.
 *
 * @param draft a name that nothing else is written to; the file is there when it has been made
 * @param durationUs length of the track, for telling how far it is
 * @param onProgress told how much has been done, 0 to 1
 * @throws FfmpegError, FfmpegTimeout; the signal's reason
 */
export const reduceNoiseInTrack = async (
  work: SoundWithNoise,
  durationUs: Us,
  draft: string,
  onProgress: (share: number) => void = () => undefined,
): Promise<void> => {
  const all = Math.max(1, 2 * inSamples(durationUs));
  let done = 0;
  const tell = (count: number) => onProgress(Math.min(1, (done += count) / all));
  const { profile, factor } = await listen(work, 0, undefined, tell);
  const cleaner = new NoiseReducer(profile, work.reduction);
  const encoder = start(
    'ffmpeg',
    [
      ...['-f', 'f32le', '-ar', String(NOISE_REDUCTION_RATE), '-ac', '1', '-i', 'pipe:0'],
      // As they are: ffmpeg's own two channels of one would be quieter.
      ...['-af', 'pan=stereo|c0=c0|c1=c0', ...ENCODER],
      ...['-movflags', '+faststart', '-f', 'mp4', draft],
    ],
    work.signal,
    { memoryBytes: LIMITS.memoryBytes },
  );
  encoder.stdout.resume();
  const give = async (samples: Float32Array) => {
    if (samples.length === 0) return;
    const out = louder(samples, factor);
    await feed(encoder, new Uint8Array(out.buffer, out.byteOffset, out.byteLength));
  };
  try {
    await decode(work, 0, undefined, async (part) => {
      const mono = middleOf(part);
      await give(cleaner.next(mono));
      tell(mono.length);
    });
    await give(cleaner.finish());
    encoder.stdin.end();
    await encoder.ended;
  } finally {
    encoder.kill();
  }
};

/** So much before a part has its noise reduced with it: a voice that goes on is known by what came before. Seconds. */
const LEAD_S = 3;

/**
 * A part of a sound track with the room taken from under it, to hear what comes of it before all is done. The room is listened
 * to round about it, in the parts that it is listened to in when all is.
 *
 * @returns samples at {@link NOISE_REDUCTION_RATE}, as loud as they are in both channels of the film
 * @throws FfmpegError, FfmpegTimeout; the signal's reason
 */
export const reduceNoiseInPart = async (
  work: SoundWithNoise,
  fromUs: Us,
  toUs: Us,
): Promise<Float32Array> => {
  const [from, to] = [inSamples(fromUs), inSamples(toUs)];
  const first = Math.max(0, Math.floor(from / LISTENED) - 1) * LISTENED;
  const end = (Math.floor(to / LISTENED) + 2) * LISTENED;
  const { profile, factor } = await listen(work, first, end - first, () => undefined);
  const begins = Math.max(0, from - LEAD_S * NOISE_REDUCTION_RATE);
  const cleaner = new NoiseReducer(profile, work.reduction, begins);
  const out = new Float32Array(to - begins);
  let at = 0;
  const put = (samples: Float32Array) => {
    const fits = samples.subarray(0, out.length - at);
    out.set(fits, at);
    at += fits.length;
  };
  await decode(work, begins, to - begins, (part) => put(cleaner.next(middleOf(part))));
  put(cleaner.finish());
  return louder(out.subarray(from - begins), factor);
};
