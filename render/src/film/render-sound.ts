import { SOUND_CHANNELS, SOUND_ENCODER, SOUND_LIMITS, SOUND_RATE } from '../ffmpeg/encoder';
import { clickSamples } from '@under-chalk/core/pointer/click-sound';
import { blocksOf, neededFor, stretchedBlock } from '@under-chalk/core/sound/time-stretch';
import { factorOf } from '@under-chalk/core/sound/levelling';
import { limit } from '@under-chalk/core/sound/limiter';
import { decodeRecordedSound } from '../ffmpeg/recorded-sound';
import { feed, start, type MediaFile } from '../ffmpeg/run';
import {
  FADE,
  PACKET,
  POST_ROLL,
  PRE_ROLL,
  type SoundPiece,
  type SoundStretch,
} from '../plan/sound';
import { adtsPackets } from './adts';

const BYTES = 4;

/** Gain at a sample of a stretch: fades at the ends of what is kept, 1 between. */
const gainAt = (sample: number, { length, fadedIn, fadesOutAfter, fades }: SoundStretch): number =>
  Math.min(
    1,
    (fadedIn + sample + 1) / (fades?.in ?? FADE),
    (fadesOutAfter + length - sample) / (fades?.out ?? FADE),
  );

/** A part of a track as it was recorded, channels interleaved. What it lacks stays silent. */
const decoded = async (
  media: MediaFile,
  fromSample: number,
  samples: number,
  signal?: AbortSignal,
): Promise<Float32Array> => {
  const decoder = decodeRecordedSound(
    media,
    { rate: SOUND_RATE, channels: SOUND_CHANNELS, fromSample, samples },
    signal,
    SOUND_LIMITS,
  );
  const out = new Float32Array(samples * SOUND_CHANNELS);
  let place = 0;
  let left: Buffer = Buffer.alloc(0);
  try {
    for await (const bytes of decoder.stdout as AsyncIterable<Buffer>) {
      const all = left.length > 0 ? Buffer.concat([left, bytes]) : bytes;
      const whole = all.length - (all.length % BYTES);
      for (let byte = 0; byte < whole && place < out.length; byte += BYTES, place++) {
        out[place] = all.readFloatLE(byte);
      }
      left = all.subarray(whole);
    }
    await decoder.ended;
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
const factorsOf = (stretch: SoundStretch, index: number): Float32Array => {
  const { length, from, gains, tracks, lowered = [] } = stretch;
  const factor = factorOf(gains?.[index] ?? 0);
  const factors = new Float32Array(length).fill(factor);
  if (tracks[index]!.kind !== 'computer-sound' || lowered.length === 0) return factors;
  for (let point = 0; point <= lowered.length; point++) {
    const [before, after] = [lowered[point - 1], lowered[point]];
    const begins = Math.max(0, (before?.at ?? from) - from);
    const ends = Math.min(length, (after?.at ?? from + length) - from);
    for (let at = begins; at < ends; at++) {
      const share = before && after ? (at + from - before.at) / (after.at - before.at) : 0;
      const start = (before ?? after)!.gain;
      factors[at] = factor * (start + share * ((after ?? before)!.gain - start));
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
  signal?: AbortSignal,
): Promise<void> => {
  if (!rate) {
    const samples = await decoded(media, from, length, signal);
    const first = offset * SOUND_CHANNELS;
    for (let at = 0; at < samples.length; at++) {
      mixed[first + at]! += samples[at]! * factors[Math.floor(at / SOUND_CHANNELS)]!;
    }
    return;
  }
  const blocks = blocksOf(rate, { from, to: from + length }, SOUND_RATE);
  const needed = blocks.map((block) => neededFor(block, SOUND_RATE));
  const begins = needed[0]!.from;
  const samples = channelsOf(await decoded(media, begins, needed.at(-1)!.to - begins, signal));
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
  mediaOf: (trackId: string) => MediaFile,
  signal?: AbortSignal,
): Promise<Float32Array> => {
  // What is encoded begins a whole pre-roll before the piece proper, whichever packet is the first kept.
  const kept = packets - (PRE_ROLL - preRoll);
  const mixed = new Float32Array((PRE_ROLL + kept + POST_ROLL) * PACKET * SOUND_CHANNELS);
  for (const stretch of stretches) {
    for (const [index, { id }] of stretch.tracks.entries()) {
      await addTrack(mediaOf(id), stretch, factorsOf(stretch, index), mixed, signal);
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
 * @returns its packets of AAC, each in an ADTS frame, one after another
 * @throws FfmpegError
 */
export const renderSound = async (
  piece: SoundPiece,
  mediaOf: (trackId: string) => MediaFile,
  signal?: AbortSignal,
): Promise<Buffer> => {
  const mixed = await mix(piece, mediaOf, signal);
  const encoder = start(
    'ffmpeg',
    [
      ...['-f', 'f32le', '-ar', String(SOUND_RATE), '-ac', String(SOUND_CHANNELS)],
      ...['-i', 'pipe:0', ...SOUND_ENCODER, '-f', 'adts', 'pipe:1'],
    ],
    signal,
    SOUND_LIMITS,
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
