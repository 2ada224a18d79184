import { pathTo } from '@under-chalk/core/contract/api';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take, type Track } from '@under-chalk/core/lesson/take';
import {
  cleanedStateSchema,
  MOST_PART_US,
  type Cleaning,
  type CleanedState,
} from '@under-chalk/core/sound/cleaning/cleaning';
import { CLEANING_RATE } from '@under-chalk/core/sound/cleaning/rate';
import { cleaningOf } from '@under-chalk/core/sound/track-sound';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { toSeconds, type Us } from '@under-chalk/core/time/us';
import { LiveValue } from '../data/live-value';
import { bytesAt, textAt } from '../data/client';
import { TrackReader, type SoundSource } from './track-reader';

/** How often it is asked how far the server is, ms. */
const AGAIN_MS = 1_500;

/** How it stands with a take's voice without its room. Asked for, it is made. @throws TellableError */
export const askCleaned = async (takeId: string, cleaning: Cleaning): Promise<CleanedState> =>
  cleanedStateSchema.parse(
    JSON.parse(await textAt(`${pathTo('cleaned', { takeId })}?cleaning=${cleaning}`)),
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
    return Promise.resolve(CLEANING_RATE);
  }

  async *soundFrom(
    fromUs: Us,
    endUs: Us,
  ): AsyncGenerator<{ buffer: AudioBuffer; timestamp: number; duration: number }, void, unknown> {
    const { startUs } = this.#range;
    const at = (us: Us) =>
      Math.max(
        0,
        Math.min(this.#samples.length, Math.round(toSeconds(us - startUs) * CLEANING_RATE)),
      );
    const [from, end] = [at(fromUs), at(endUs)];
    if (end <= from) return;
    // Both channels as the film has them.
    const buffer = new AudioBuffer({
      ...{ length: end - from, sampleRate: CLEANING_RATE, numberOfChannels: 2 },
    });
    const samples = Float32Array.from(this.#samples.subarray(from, end), (one) => one / 32_768);
    for (const channel of [0, 1]) buffer.copyToChannel(samples, channel);
    const timestamp = toSeconds(startUs) + from / CLEANING_RATE;
    yield { buffer, timestamp, duration: buffer.duration };
  }

  covers(fromUs: Us): boolean {
    return fromUs >= this.#range.startUs && fromUs < this.#range.endUs;
  }
}

/** Voices without the room that they were recorded in: all of one once the server has made it, before that parts of it. */
export class CleanedSound {
  /** How it stands with each take's voice, by `take cleaning`, as far as it was asked for. */
  readonly states = new LiveValue<ReadonlyMap<string, CleanedState>>(new Map());
  readonly #readers = new Map<string, TrackReader>();
  readonly #parts = new Map<string, PartOfVoice>();
  readonly #asked = new Set<string>();
  readonly #timers = new Set<ReturnType<typeof setTimeout>>();
  #closed = false;

  /** Sees to it that what a lesson wants cleaned is there. */
  fetch(lesson: Lesson, takes: Iterable<Take>): void {
    for (const take of takes) {
      const cleaning = cleaningOf(lesson.decisions, take.id);
      const track = trackOf(take, 'voice');
      if (!cleaning || !track || take.state !== 'ready') continue;
      const name = nameOf(track, cleaning);
      if (this.#asked.has(name)) continue;
      this.#asked.add(name);
      void this.#ask(take.id, track, cleaning);
    }
  }

  /** Fetches a part of a take's voice, to be heard before all is there. @throws TellableError */
  async fetchPart(take: Take, cleaning: Cleaning, { startUs, endUs }: TimeRange): Promise<void> {
    const track = trackOf(take, 'voice');
    if (!track || this.#readers.has(nameOf(track, cleaning))) return;
    const range = { startUs, endUs: Math.min(endUs, startUs + MOST_PART_US) };
    const query = `cleaning=${cleaning}&fromUs=${range.startUs}&toUs=${range.endUs}`;
    const bytes = await bytesAt(`${pathTo('cleanedPart', { takeId: take.id })}?${query}`);
    const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.byteLength >> 1);
    this.#parts.set(nameOf(track, cleaning), new PartOfVoice(range, samples));
  }

  /** Where a voice is read from a time on; null where it isn't there yet, and is heard as it was recorded. */
  of(track: Track, cleaning: Cleaning, fromUs: Us): SoundSource | null {
    const name = nameOf(track, cleaning);
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

  async #ask(takeId: string, track: Track, cleaning: Cleaning): Promise<void> {
    const state = await askCleaned(takeId, cleaning).catch((error: unknown) => {
      console.error('how it stands with a voice without its room can’t be fetched', error);
      return null;
    });
    if (this.#closed) return;
    if (state) this.states.set(new Map([...this.states.view(), [`${takeId} ${cleaning}`, state]]));
    if (state?.is === 'ready')
      this.#readers.set(nameOf(track, cleaning), new TrackReader(track.id, cleaning));
    if (state && state.is !== 'making') return;
    const timer = setTimeout(() => {
      this.#timers.delete(timer);
      void this.#ask(takeId, track, cleaning);
    }, AGAIN_MS);
    this.#timers.add(timer);
  }
}

/** A take that was made ready anew has other sound. */
const nameOf = ({ id, digest }: Track, cleaning: Cleaning): string => `${id} ${digest} ${cleaning}`;
