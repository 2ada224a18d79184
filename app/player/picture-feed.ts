import type { VideoSample } from 'mediabunny';
import { HALF_FRAME_US } from '@under-chalk/core/time/frames';
import type { Us } from '@under-chalk/core/time/us';
import type { TrackReader } from './track-reader';

/** Decoded pictures held ahead of the one on show. Few: a decoder has few to lend. */
const AHEAD = 4;

/** Decodes one track over one kept stretch while it plays, a few pictures ahead. */
export class PictureFeed {
  #queue: VideoSample[] = [];
  #wake: (() => void) | null = null;
  #closed = false;

  constructor(reader: TrackReader, startUs: Us, endUs: Us) {
    void this.#fill(reader, startUs, endUs);
  }

  /** The picture on show at a recorded time, which may only move forward. It stays the feed's own. */
  at(takeUs: Us): VideoSample | null {
    while (this.#queue[1] && this.#queue[1].microsecondTimestamp <= takeUs + HALF_FRAME_US) {
      this.#queue.shift()!.close();
      this.#wake?.();
    }
    return this.#queue[0] ?? null;
  }

  close(): void {
    this.#closed = true;
    this.#wake?.();
    this.#queue.forEach((sample) => sample.close());
    this.#queue = [];
  }

  async #fill(reader: TrackReader, startUs: Us, endUs: Us): Promise<void> {
    try {
      // The picture on show at the start may have begun long before it.
      const first = await reader.pictureAt(startUs);
      if (first) this.#take(first);
      const firstUs = first?.microsecondTimestamp ?? -1;
      for await (const sample of reader.picturesFrom(startUs, endUs)) {
        if (sample.microsecondTimestamp <= firstUs) {
          sample.close();
          continue;
        }
        this.#take(sample);
        while (this.#queue.length > AHEAD && !this.#closed) {
          await new Promise<void>((resolve) => {
            this.#wake = resolve;
          });
          this.#wake = null;
        }
        if (this.#closed) return;
      }
    } catch (error) {
      if (!this.#closed) console.error('a track can’t be shown', error);
    }
  }

  #take(sample: VideoSample): void {
    if (this.#closed) sample.close();
    else this.#queue.push(sample);
  }
}
