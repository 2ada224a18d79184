import { pathTo } from '@under-chalk/core/contract/api';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take, type Track } from '@under-chalk/core/lesson/take';
import {
  noiseReducedStateSchema,
  MOST_PART_US,
  type NoiseReduction,
  type NoiseReducedState,
} from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { NOISE_REDUCTION_RATE } from '@under-chalk/core/sound/noise-reduction/rate';
import { noiseReductionOf } from '@under-chalk/core/sound/track-sound';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { toSeconds, type Us } from '@under-chalk/core/time/us';
import { LiveValue } from '../data/live-value';
import { bytesAt, textAt } from '../data/client';
import { TrackReader, type SoundSource } from './track-reader';

/** How often it is asked how far the server is, ms. */
const AGAIN_MS = 1_500;

/** How it stands with a take's voice without its room. Asked for, it is made. @throws AppError */
export const askNoiseReduced = async (
  takeId: string,
  reduction: NoiseReduction,
): Promise<NoiseReducedState> =>
  noiseReducedStateSchema.parse(
    JSON.parse(await textAt(`${pathTo('noiseReduced', { takeId })}?reduction=${reduction}`)),
  );

/** A part of a voice that was fetched: silent outside of it. */
class PartOfVoice implements SoundSource {
  readonly #range: TimeRange;
  readonly #samples: Int16Array;

  constructor(range: TimeRange, samples: Int16Array) {
    this.#range = range;
    this.#samples = samples;
  }

  soundRate(): Promise<number> {
    return Promise.resolve(NOISE_REDUCTION_RATE);
  }

  async *soundFrom(
    fromUs: Us,
    endUs: Us,
  ): AsyncGenerator<{ buffer: AudioBuffer; timestamp: number; duration: number }, void, unknown> {
    const { startUs } = this.#range;
    const at = (us: Us) =>
      Math.max(
        0,
        Math.min(this.#samples.length, Math.round(toSeconds(us - startUs) * NOISE_REDUCTION_RATE)),
      );
    const [from, end] = [at(fromUs), at(endUs)];
    if (end <= from) return;
    // Both channels as the film has them.
    const buffer = new AudioBuffer({
      ...{ length: end - from, sampleRate: NOISE_REDUCTION_RATE, numberOfChannels: 2 },
    });
    const samples = Float32Array.from(this.#samples.subarray(from, end), (one) => one / 32_768);
    for (const channel of [0, 1]) buffer.copyToChannel(samples, channel);
    const timestamp = toSeconds(startUs) + from / NOISE_REDUCTION_RATE;
    yield { buffer, timestamp, duration: buffer.duration };
  }

  covers(fromUs: Us): boolean {
    return fromUs >= this.#range.startUs && fromUs < this.#range.endUs;
  }
}

/** Voices without the room that they were recorded in: all of one once the server has made it, before that parts of it. */
export class NoiseReducedSound {
  /** How it stands with each take's voice, by `take reduction`, as far as it was asked for. */
  readonly states = new LiveValue<ReadonlyMap<string, NoiseReducedState>>(new Map());
  readonly #readers = new Map<string, TrackReader>();
  readonly #parts = new Map<string, PartOfVoice>();
  readonly #asked = new Set<string>();
  readonly #timers = new Set<ReturnType<typeof setTimeout>>();
  #closed = false;

  /** Sees to it that what a lesson wants with less noise is there. */
  fetch(lesson: Lesson, takes: Iterable<Take>): void {
    for (const take of takes) {
      const reduction = noiseReductionOf(lesson.decisions, take.id);
      const track = trackOf(take, 'voice');
      if (!reduction || !track || take.state !== 'ready') continue;
      const name = nameOf(track, reduction);
      if (this.#asked.has(name)) continue;
      this.#asked.add(name);
      void this.#ask(take.id, track, reduction);
    }
  }

  /** Fetches a part of a take's voice, to be heard before all is there. @throws AppError */
  async fetchPart(
    take: Take,
    reduction: NoiseReduction,
    { startUs, endUs }: TimeRange,
  ): Promise<void> {
    const track = trackOf(take, 'voice');
    if (!track || this.#readers.has(nameOf(track, reduction))) return;
    const range = { startUs, endUs: Math.min(endUs, startUs + MOST_PART_US) };
    const query = `reduction=${reduction}&fromUs=${range.startUs}&toUs=${range.endUs}`;
    const bytes = await bytesAt(`${pathTo('noiseReducedPart', { takeId: take.id })}?${query}`);
    const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.byteLength >> 1);
    this.#parts.set(nameOf(track, reduction), new PartOfVoice(range, samples));
  }

  /** Where a voice is read from a time on; null where it isn't there yet, and is heard as it was recorded. */
  of(track: Track, reduction: NoiseReduction, fromUs: Us): SoundSource | null {
    const name = nameOf(track, reduction);
    const reader = this.#readers.get(name);
    if (reader) return reader;
    const part = this.#parts.get(name);
    return part?.covers(fromUs) ? part : null;
  }

  close(): void {
    this.#closed = true;
    this.#timers.forEach(clearTimeout);
    this.#readers.forEach((reader) => reader.close());
    this.#readers.clear();
  }

  async #ask(takeId: string, track: Track, reduction: NoiseReduction): Promise<void> {
    const state = await askNoiseReduced(takeId, reduction).catch((error: unknown) => {
      console.error('how it stands with a voice without its room can’t be fetched', error);
      return null;
    });
    if (this.#closed) return;
    if (state) this.states.set(new Map([...this.states.view(), [`${takeId} ${reduction}`, state]]));
    if (state?.is === 'ready')
      this.#readers.set(nameOf(track, reduction), new TrackReader(track.id, reduction));
    if (state && state.is !== 'making') return;
    const timer = setTimeout(() => {
      this.#timers.delete(timer);
      void this.#ask(takeId, track, reduction);
    }, AGAIN_MS);
    this.#timers.add(timer);
  }
}

/** A take that was made ready anew has other sound. */
const nameOf = ({ id, digest }: Track, reduction: NoiseReduction): string =>
  `${id} ${digest} ${reduction}`;
