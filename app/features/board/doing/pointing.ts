import type { PageView } from '@under-chalk/core/ink/ink-track';
import type { XY } from '@under-chalk/core/ink/page';
import type { InkRecord } from '@under-chalk/core/ink/record';
import { rounded, type Doing, type HandSample } from './doing';

/** No more places than so many a second are told: the eye follows no faster, and the film has no more frames. */
const LEAST_US = 8_000;
/** How long the live mark's tail is. */
export const TAIL_US = 500_000;

/** What is seen of a pointer on the screen. */
export interface Pointed {
  /** Widths of what is shown, the latest last; with how long ago, µs. */
  readonly tail: readonly { readonly at: XY; readonly agoUs: number }[];
  readonly pressed: boolean;
}

interface Told {
  /** The part of the page that is shown. */
  readonly part: () => PageView;
  readonly tell: (record: InkRecord) => void;
}

/** A pointer that is recorded, and shown while it moves. */
export class LivePointer {
  readonly #to: Told;
  #lastUs = 0;
  #there = false;
  #pressed = false;
  #tail: { at: XY; atUs: number }[] = [];

  constructor(to: Told) {
    this.#to = to;
  }

  #shown({ x, y }: HandSample): XY {
    const { x: left, y: top, zoom } = this.#to.part();
    return [rounded((x - left) * zoom), rounded((y - top) * zoom)];
  }

  move(samples: readonly HandSample[]): void {
    for (const sample of samples) {
      const atUs = Math.round(sample.atUs);
      if (this.#there && atUs - this.#lastUs < LEAST_US) continue;
      const [x, y] = this.#shown(sample);
      this.#seen([x, y], atUs);
      this.#to.tell({ at: this.#lastUs, do: 'point', samples: [[0, x, y]] });
    }
  }

  press(sample: HandSample): void {
    const [x, y] = this.#shown(sample);
    this.#seen([x, y], Math.round(sample.atUs));
    this.#pressed = true;
    this.#to.tell({ at: this.#lastUs, do: 'press', x, y });
  }

  release(atUs: number): void {
    if (!this.#pressed) return;
    this.#pressed = false;
    this.#to.tell({ at: this.#time(atUs), do: 'release' });
  }

  away(atUs: number): void {
    if (!this.#there) return;
    this.lifts();
    this.#to.tell({ at: this.#time(atUs), do: 'away' });
  }

  /** What is seen of it goes, and nothing is told. */
  lifts(): void {
    this.#there = false;
    this.#pressed = false;
    this.#tail = [];
  }

  seen(atUs: number): Pointed {
    this.#tail = this.#tail.filter(
      (one, index) => atUs - one.atUs < TAIL_US || index === this.#tail.length - 1,
    );
    const tail = this.#tail.map(({ at, atUs: then }) => ({ at, agoUs: Math.max(0, atUs - then) }));
    return { tail, pressed: this.#pressed };
  }

  #time(atUs: number): number {
    return (this.#lastUs = Math.max(this.#lastUs, Math.round(atUs)));
  }

  #seen(at: XY, atUs: number): void {
    this.#there = true;
    this.#tail.push({ at, atUs: this.#time(atUs) });
  }
}

/** Points while it is down. */
export class Pointing implements Doing {
  readonly #pointer: LivePointer;

  constructor(pointer: LivePointer, first: HandSample) {
    this.#pointer = pointer;
    pointer.press(first);
  }

  move(samples: readonly HandSample[]): void {
    this.#pointer.move(samples);
  }

  up(atUs: number): void {
    this.#pointer.release(atUs);
  }

  abandon(): void {
    this.#pointer.away(0);
  }
}
