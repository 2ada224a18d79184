import { SOUND_CHANNELS, SOUND_ENCODER, SOUND_LIMITS, SOUND_RATE } from '../ffmpeg/encoder';
import { clickSamples } from '@under-chalk/core/pointer/click-sound';
import { blocksOf, neededFor, stretchedBlock } from '@under-chalk/core/sound/time-stretch';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import type { Track } from '@under-chalk/core/lesson/take';
import { factorOf } from '@under-chalk/core/sound/levelling';
import { limit } from '@under-chalk/core/sound/limiter';
import { decodeRecordedSound, floatsOf } from '../ffmpeg/recorded-sound';
import type { Limits } from '../ffmpeg/limited';
import { feed, start, type MediaFile } from '../ffmpeg/run';
import {
  FADE,
  PACKET,
  POST_ROLL,
  PRE_ROLL,
  type HeardTrack,
  type SoundPiece,
  type SoundStretch,
} from '../plan/sound';
import { adtsPackets } from './adts';

/** Where the sound of a track is: as it was recorded, or without the room. @throws when it is missing */
export type SoundFileOf = (track: Track, reduction: NoiseReduction | null) => MediaFile;

/** Gain at a sample of a stretch: fades at the ends of what is kept, 1 between. */
const gainAt = (sample: number, { length, fadedIn, fadesOutAfter, fades }: SoundStretch): number =>
  Math.min(
    1,
    (fadedIn + sample + 1) / (fades?.in ?? FADE),
    (fadesOutAfter + length - sample) / (fades?.out ?? FADE),
  );

/** How programs are run for it. */
interface How {
  readonly signal: AbortSignal | undefined;
  readonly limits: Limits;
}

/** A part of a track as it was recorded, channels interleaved. What it lacks stays silent. */
const decoded = async (
  media: MediaFile,
  fromSample: number,
  samples: number,
  how: How,
): Promise<Float32Array> => {
  const decoder = decodeRecordedSound(
    media,
    { rate: SOUND_RATE, channels: SOUND_CHANNELS, fromSample, samples },
    how.signal,
    how.limits,
  );
  const out = new Float32Array(samples * SOUND_CHANNELS);
  let place = 0;
  try {
    for await (const part of floatsOf(decoder, SOUND_CHANNELS)) {
      const fits = part.subarray(0, out.length - place);
      out.set(fits, place);
      place += fits.length;
    }
  } finally {
    decoder.kill();
  }
  return out;
};

const channelsOf = (interleaved: Float32Array): Float32Array[] =>
  Array.from({ length: SOUND_CHANNELS }, (_, channel) =>
    Float32Array.from(
      { length: interleaved.length / SOUND_CHANNELS },
      (_sample, at) => interleaved[at * SOUND_CHANNELS + channel]!,
    ),
  );

/** How loud each sample of a stretch of a track is against how it was recorded. */
const factorsOf = (
  { length, from }: SoundStretch,
  { gainDb, envelopes }: HeardTrack,
): Float32Array => {
  const factors = new Float32Array(length).fill(factorOf(gainDb));
  for (const points of envelopes) {
    for (let point = 0; point <= points.length; point++) {
      const [before, after] = [points[point - 1], points[point]];
      const begins = Math.max(0, (before?.at ?? from) - from);
      const ends = Math.min(length, (after?.at ?? from + length) - from);
      for (let at = begins; at < ends; at++) {
        const share = before && after ? (at + from - before.at) / (after.at - before.at) : 0;
        const start = (before ?? after)!.gain;
        factors[at]! *= start + share * ((after ?? before)!.gain - start);
      }
    }
  }
  return factors;
};

/** Adds what a track has for a stretch to the samples of a piece, as loud and at the speed that it is heard at. */
const addTrack = async (
  media: MediaFile,
  { from, length, at: offset, rate }: SoundStretch,
  factors: Float32Array,
  mixed: Float32Array,
  how: How,
): Promise<void> => {
  if (!rate) {
    const samples = await decoded(media, from, length, how);
    const first = offset * SOUND_CHANNELS;
    for (let at = 0; at < samples.length; at++) {
      mixed[first + at]! += samples[at]! * factors[Math.floor(at / SOUND_CHANNELS)]!;
    }
    return;
  }
  const blocks = blocksOf(rate, { from, to: from + length }, SOUND_RATE);
  const needed = blocks.map((block) => neededFor(block, SOUND_RATE));
  const begins = needed[0]!.from;
  const samples = channelsOf(await decoded(media, begins, needed.at(-1)!.to - begins, how));
  blocks.forEach((block, index) => {
    const part = needed[index]!;
    const channels = samples.map((channel) =>
      channel.subarray(part.from - begins, part.to - begins),
    );
    const made = stretchedBlock({ sampleRate: SOUND_RATE, from: part.from, channels }, block, rate);
    made.channels.forEach((channel, number) => {
      const first = Math.max(0, from - made.from);
      const end = Math.min(channel.length, from + length - made.from);
      for (let at = first; at < end; at++) {
        const sample = made.from + at - from;
        mixed[(offset + sample) * SOUND_CHANNELS + number]! += channel[at]! * factors[sample]!;
      }
    });
  });
};

const CLICK = clickSamples(SOUND_RATE);

/** Adds the presses that are heard in a stretch, as far as they lie in it. */
const addClicks = (
  { at: offset, from, length, clicks = [] }: SoundStretch,
  mixed: Float32Array,
) => {
  for (const { at, level } of clicks) {
    const first = Math.max(0, from - at);
    const end = Math.min(CLICK.length, from + length - at);
    for (let sample = first; sample < end; sample++) {
      for (let channel = 0; channel < SOUND_CHANNELS; channel++) {
        mixed[(offset + at + sample - from) * SOUND_CHANNELS + channel]! += CLICK[sample]! * level;
      }
    }
  }
};

/** Mixes the samples of a piece, pre-roll and post-roll with it; channels interleaved. */
const mix = async (
  { packets, preRoll, stretches, limited }: SoundPiece,
  soundOf: SoundFileOf,
  how: How,
): Promise<Float32Array> => {
  // What is encoded begins a whole pre-roll before the piece proper, whichever packet is the first kept.
  const kept = packets - (PRE_ROLL - preRoll);
  const mixed = new Float32Array((PRE_ROLL + kept + POST_ROLL) * PACKET * SOUND_CHANNELS);
  for (const stretch of stretches) {
    for (const heard of stretch.tracks) {
      const media = soundOf(heard.track, heard.reduction);
      await addTrack(media, stretch, factorsOf(stretch, heard), mixed, how);
    }
    addClicks(stretch, mixed);
    for (let sample = 0; sample < stretch.length; sample++) {
      const gain = gainAt(sample, stretch);
      for (let channel = 0; channel < SOUND_CHANNELS; channel++) {
        const place = (stretch.at + sample) * SOUND_CHANNELS + channel;
        mixed[place] = mixed[place]! * gain;
      }
    }
  }
  if (limited) limit(mixed, SOUND_RATE, SOUND_CHANNELS);
  for (let at = 0; at < mixed.length; at++) mixed[at] = Math.max(-1, Math.min(1, mixed[at]!));
  return mixed;
};

/**
 * Renders a piece of sound.
 *
 * @param background it gives way to everything else
 * @returns its packets of AAC, each in an ADTS frame, one after another
 * @throws FfmpegError
 */
export const renderSound = async (
  piece: SoundPiece,
  soundOf: SoundFileOf,
  signal?: AbortSignal,
  background = false,
): Promise<Buffer> => {
  const limits = { ...SOUND_LIMITS, background };
  const mixed = await mix(piece, soundOf, { signal, limits });
  const encoder = start(
    'ffmpeg',
    [
      ...['-f', 'f32le', '-ar', String(SOUND_RATE), '-ac', String(SOUND_CHANNELS)],
      ...['-i', 'pipe:0', ...SOUND_ENCODER, '-f', 'adts', 'pipe:1'],
    ],
    signal,
    limits,
  );
  try {
    const out: Buffer[] = [];
    encoder.stdout.on('data', (bytes: Buffer) => out.push(bytes));
    await feed(encoder, Buffer.from(mixed.buffer));
    encoder.stdin.end();
    await encoder.ended;
    // The encoder's first packet comes before its first sample.
    const all = adtsPackets(Buffer.concat(out));
    const packets = all.slice(piece.preRoll + 1, piece.preRoll + 1 + piece.packets);
    if (packets.length !== piece.packets) {
      throw new Error(`a piece of sound has ${packets.length} packets of ${piece.packets}`);
    }
    return Buffer.concat(packets);
  } finally {
    encoder.kill();
  }
};
