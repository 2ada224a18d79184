import { strokesAt } from '@under-chalk/core/ink/hit';
import type { InkSample } from '@under-chalk/core/ink/record';
import { partlyErased, type LeftStroke } from '@under-chalk/core/ink/eraser';
import { newId } from '../../../capture/new-id';
import { rounded, stepOf, type Doing, type HandSample, type UnderHand } from './doing';

/** What a wiping finger touches, half its width as a fraction of what is shown of the page. */
const REACH = 0.012;

/** Wipes what it touches: strokes as a whole, or the part under it. */
export class Eraser implements Doing {
  readonly #page: UnderHand;
  readonly #inPart: boolean;
  readonly #wiped = new Set<string>();
  /** What is left of strokes that were wiped in part. */
  readonly #left = new Set<string>();
  #lastUs: number;

  constructor(page: UnderHand, inPart: boolean, first: HandSample) {
    this.#page = page;
    this.#inPart = inPart;
    this.#lastUs = Math.round(first.atUs);
    this.move([first]);
  }

  move(samples: readonly HandSample[]): void {
    for (const sample of samples) {
      this.#lastUs = Math.max(this.#lastUs, Math.round(sample.atUs));
      this.#wipeAt(sample);
    }
  }

  #wipeAt({ x, y }: HandSample): void {
    const reach = REACH / this.#page.zoom();
    const touched = strokesAt(this.#page.strokes(), x, y, reach);
    const left = new Map<string, readonly LeftStroke[]>();
    for (const shown of touched) {
      left.set(shown.stroke.id, (this.#inPart && partlyErased(shown, [x, y], reach)) || []);
    }
    if (left.size === 0) return;
    const at = this.#lastUs;
    this.#page.tell({ at, do: 'wipe', strokes: [...left.keys()] });
    for (const id of left.keys()) {
      // What this hand has left before, and wipes now, was never there before it came down.
      if (!this.#left.delete(id)) this.#wiped.add(id);
    }
    for (const { pen, points } of [...left.values()].flat()) {
      const stroke = newId();
      this.#left.add(stroke);
      const samples = points.map((point): InkSample => [
        ...([0, rounded(point.x), rounded(point.y)] as const),
        rounded(point.pressure),
      ]);
      this.#page.tell({ at, do: 'begin', stroke, pen });
      this.#page.tell({ at, do: 'draw', stroke, samples });
      this.#page.tell({ at, do: 'end', stroke });
    }
  }

  up(): void {
    if (this.#wiped.size === 0) return;
    this.#page.did(stepOf({ drawn: [...this.#left], wiped: [...this.#wiped] }));
  }

  abandon(): void {
    const at = this.#lastUs;
    if (this.#left.size > 0) this.#page.tell({ at, do: 'wipe', strokes: [...this.#left] });
    if (this.#wiped.size > 0) this.#page.tell({ at, do: 'unwipe', strokes: [...this.#wiped] });
  }
}
