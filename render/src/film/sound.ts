import type { Film, Span } from '@under-chalk/core/film/film';
import { isPicture, type Take } from '@under-chalk/core/lesson/take';
import { frameToSample } from '@under-chalk/core/time/frames';
import { SOUND_CHANNELS, SOUND_ENCODER, SOUND_LIMITS, SOUND_RATE } from '../ffmpeg/encoder';
import { decodeRecordedSound } from '../ffmpeg/recorded-sound';
import { feed, start, type MediaFile } from '../ffmpeg/run';

/** Samples read at a time: half a second. */
const BLOCK = SOUND_RATE / 2;
/** Length of the fade at either side of a cut, so that it doesn't click: 6 ms. */
const FADE = Math.round(SOUND_RATE * 0.006);

/** Raise when the sound of the same spans comes out differently. */
export const SOUND_VERSION = 2;

/** Everything that the sound of a film depends on, as canonical text. */
export const soundText = (film: Film): string =>
  JSON.stringify([
    SOUND_VERSION,
    SOUND_ENCODER,
    film.spans.map((span) => [
      soundTracks(span.take).map((track) => track.id),
      span.startFrame,
      span.endFrame,
    ]),
  ]);

const soundTracks = (take: Take) => take.tracks.filter((track) => !isPicture(track.kind));

/** Gain at a sample of a span: fades at its ends, 1 between. */
const gainAt = (sample: number, length: number, fadeIn: boolean, fadeOut: boolean): number => {
  const into = fadeIn ? Math.min(1, (sample + 1) / FADE) : 1;
  const outOf = fadeOut ? Math.min(1, (length - sample) / FADE) : 1;
  return Math.min(into, outOf);
};

/** Whether the film goes on from one span to the other without a break in what was recorded. */
const runsOn = (a: Span | undefined, b: Span | undefined) =>
  a !== undefined && b !== undefined && a.take.id === b.take.id && a.endFrame === b.startFrame;

/** Mixes the tracks of one take, from a sample on, block by block. Past their end they are silent. */
const openTake = (
  take: Take,
  fromSample: number,
  mediaOf: (trackId: string) => MediaFile,
  signal?: AbortSignal,
) => {
  const running = soundTracks(take).map((track) =>
    decodeRecordedSound(
      mediaOf(track.id),
      { rate: SOUND_RATE, channels: SOUND_CHANNELS, fromSample },
      signal,
      SOUND_LIMITS,
    ),
  );
  const sources = running.map((decoder) => {
    let held: Buffer = Buffer.alloc(0);
    let over = false;
    const iterator = decoder.stdout[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
    return async (into: Float32Array): Promise<void> => {
      const wanted = into.length * 4;
      while (held.length < wanted && !over) {
        const { value, done } = await iterator.next();
        if (done) {
          over = true;
          await decoder.ended;
        } else held = held.length === 0 ? value : Buffer.concat([held, value]);
      }
      const take = Math.min(wanted, held.length - (held.length % 4));
      // Copied, because the bytes in the pipe's buffer need not lie on a float's border.
      const block = new Float32Array(take / 4);
      Buffer.from(block.buffer).set(held.subarray(0, take));
      held = held.subarray(take);
      for (let at = 0; at < block.length; at++) into[at]! += block[at]!;
    };
  });
  return {
    async read(samples: number): Promise<Float32Array> {
      const mixed = new Float32Array(samples * SOUND_CHANNELS);
      for (const source of sources) await source(mixed);
      return mixed;
    },
    close() {
      running.forEach((decoder) => decoder.kill());
    },
  };
};

/**
 * Renders the sound of a film in one pass into an AAC file. Each take is decoded once for as long as
 * its spans follow in order; what was cut is read past.
 *
 * @param onSamples told how many samples of the film are done
 */
export const renderSound = async (
  film: Film,
  mediaOf: (trackId: string) => MediaFile,
  out: string,
  onSamples: (done: number) => void,
  signal?: AbortSignal,
): Promise<void> => {
  const encoder = start(
    'ffmpeg',
    [
      '-f',
      'f32le',
      '-ar',
      String(SOUND_RATE),
      '-ac',
      String(SOUND_CHANNELS),
      '-i',
      'pipe:0',
      ...SOUND_ENCODER,
      '-f',
      'mp4',
      out,
    ],
    signal,
    SOUND_LIMITS,
  );
  let open: { take: Take; at: number; reader: ReturnType<typeof openTake> } | null = null;
  let done = 0;
  try {
    for (const [index, span] of film.spans.entries()) {
      const from = frameToSample(span.startFrame, SOUND_RATE);
      const length = frameToSample(span.endFrame, SOUND_RATE) - from;
      if (open === null || open.take.id !== span.take.id || open.at > from) {
        open?.reader.close();
        open = { take: span.take, at: from, reader: openTake(span.take, from, mediaOf, signal) };
      }
      for (; open.at < from;) {
        const skipped: number = Math.min(BLOCK, from - open.at);
        await open.reader.read(skipped);
        open.at += skipped;
      }
      const fadeIn = index > 0 && !runsOn(film.spans[index - 1], span);
      const fadeOut = index < film.spans.length - 1 && !runsOn(span, film.spans[index + 1]);
      for (let at = 0; at < length;) {
        const samples = Math.min(BLOCK, length - at);
        const mixed = await open.reader.read(samples);
        for (let sample = 0; sample < samples; sample++) {
          const gain = gainAt(at + sample, length, fadeIn, fadeOut);
          for (let channel = 0; channel < SOUND_CHANNELS; channel++) {
            const place = sample * SOUND_CHANNELS + channel;
            mixed[place] = Math.max(-1, Math.min(1, mixed[place]! * gain));
          }
        }
        await feed(encoder, Buffer.from(mixed.buffer));
        at += samples;
        open.at += samples;
        done += samples;
        onSamples(done);
      }
    }
    encoder.stdin.end();
    await encoder.ended;
  } finally {
    open?.reader.close();
    encoder.kill();
  }
};
