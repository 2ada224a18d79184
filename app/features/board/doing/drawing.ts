import { isShape, type InkTool } from '@under-chalk/core/ink/pen';
import { MOST_SAMPLES, type InkSample } from '@under-chalk/core/ink/record';
import { straightened } from '@under-chalk/core/ink/straighten';
import { newId } from '../../../capture/new-id';
import { rounded, stepOf, type Doing, type HandSample, type UnderHand } from './doing';

/** Shorter strokes than this are not straightened, and shapes of no extent are slips of the hand. */
const LEAST_STRAIGHTENED = 0.05;
const LEAST_SHAPE = 0.0028;

/** Draws a stroke. */
export class Drawing implements Doing {
  readonly #page: UnderHand;
  #id = newId();
  #tool: InkTool;
  /** Straightened, it is done but for the lifting. */
  #straightened = false;
  #lastUs: number;
  #samples: InkSample[] = [];

  constructor(page: UnderHand, tool: InkTool, first: HandSample) {
    this.#page = page;
    this.#tool = tool;
    this.#lastUs = Math.round(first.atUs);
    page.tell({ at: this.#lastUs, do: 'begin', stroke: this.#id, pen: page.pen(tool) });
    this.#draw([first]);
  }

  move(samples: readonly HandSample[]): void {
    if (!this.#straightened) this.#draw(samples);
  }

  #draw(samples: readonly HandSample[]): void {
    const at = Math.max(this.#lastUs, samples[0]?.atUs ?? 0);
    const told = samples
      .slice(0, MOST_SAMPLES)
      .map(({ x, y, pressure, atUs }, index): InkSample => {
        const later = index === 0 ? 0 : Math.max(0, Math.round(atUs - this.#lastUs));
        this.#lastUs = Math.max(this.#lastUs, Math.round(atUs));
        return [later, rounded(x), rounded(y), rounded(pressure)];
      });
    if (told.length === 0) return;
    this.#samples.push(...told);
    this.#page.tell({ at: Math.round(at), do: 'draw', stroke: this.#id, samples: told });
  }

  /** What was drawn is straightened, if it was meant to be a line, a box or an ellipse. */
  rest(atUs: number): void {
    if (this.#tool !== 'pen' || this.#straightened) return;
    const path = this.#samples.map(([, x, y]) => [x, y] as const);
    const found = straightened(path, LEAST_STRAIGHTENED);
    if (!found) return;
    const at = Math.max(this.#lastUs, Math.round(atUs));
    const corner = ([x, y]: readonly [number, number]): InkSample => [
      0,
      rounded(x),
      rounded(y),
      0.5,
    ];
    const samples = [corner(found.from), corner(found.to)];
    const { tell, pen } = this.#page;
    tell({ at, do: 'end', stroke: this.#id });
    tell({ at, do: 'wipe', strokes: [this.#id] });
    this.#id = newId();
    this.#tool = found.tool;
    this.#straightened = true;
    this.#lastUs = at;
    this.#samples = samples;
    tell({ at, do: 'begin', stroke: this.#id, pen: pen(found.tool) });
    tell({ at, do: 'draw', stroke: this.#id, samples });
  }

  up(atUs: number): void {
    const at = Math.max(this.#lastUs, Math.round(atUs));
    const [first, last] = [this.#samples[0]!, this.#samples.at(-1)!];
    const shape = isShape(this.#tool);
    // A shape is its two corners; how the hand went from one to the other is no part of it.
    const corners = [first, last].map(([, x, y, pressure]): InkSample => [0, x, y, pressure]);
    const { tell, did } = this.#page;
    tell({ at, do: 'end', stroke: this.#id, ...(shape ? { samples: corners } : {}) });
    if (shape && Math.hypot(last[1] - first[1], last[2] - first[2]) < LEAST_SHAPE) {
      tell({ at, do: 'wipe', strokes: [this.#id] });
    } else did(stepOf({ drawn: [this.#id] }));
  }

  abandon(): void {
    const at = this.#lastUs;
    this.#page.tell({ at, do: 'end', stroke: this.#id });
    this.#page.tell({ at, do: 'wipe', strokes: [this.#id] });
  }
}
