import { boundsOfAll, strokesAt, strokesWithin } from '@under-chalk/core/ink/hit';
import type { XY } from '@under-chalk/core/ink/page';
import { rounded, stepOf, type Doing, type HandSample, type UnderHand } from './doing';

/** How near a finger has to come, and how far it may tremble without moving anything: of what is shown. */
const REACH = 0.02;
const TREMBLE = 0.008;

const placeOf = ({ x, y }: HandSample): XY => [x, y];

/** Moves what is selected along with the hand. */
class Moving implements Doing {
  readonly #page: UnderHand;
  readonly #strokes: readonly string[];
  readonly #from: XY;
  readonly #tap: () => void;
  #by: XY = [0, 0];
  #moves = false;

  /** @param tap does what is meant where the hand stays where it is */
  constructor(page: UnderHand, first: HandSample, tap: () => void) {
    this.#page = page;
    this.#strokes = page.selected().map(({ stroke }) => stroke.id);
    this.#from = placeOf(first);
    this.#tap = tap;
  }

  move(samples: readonly HandSample[]): void {
    const last = samples.at(-1);
    if (!last) return;
    const by = [rounded(last.x - this.#from[0]), rounded(last.y - this.#from[1])] as const;
    this.#moves ||= Math.hypot(...by) > TREMBLE / this.#page.zoom();
    if (this.#moves) this.#to(by, last.atUs);
  }

  #to(by: XY, atUs: number): void {
    const [x, y] = [rounded(by[0] - this.#by[0]), rounded(by[1] - this.#by[1])];
    if (x === 0 && y === 0) return;
    this.#by = [rounded(this.#by[0] + x), rounded(this.#by[1] + y)];
    this.#page.tell({ at: Math.round(atUs), do: 'shift', strokes: this.#strokes, x, y });
  }

  up(): void {
    const [x, y] = this.#by;
    if (!this.#moves) this.#tap();
    else if (x !== 0 || y !== 0) {
      this.#page.did(stepOf({ moved: { strokes: this.#strokes, x, y } }));
    }
  }

  abandon(): void {
    this.#to([0, 0], 0);
  }
}

/** Selects what lies in the rectangle that the hand draws. */
class Banding implements Doing {
  readonly #page: UnderHand;
  readonly #from: XY;
  #to: XY;

  constructor(page: UnderHand, first: HandSample) {
    this.#page = page;
    this.#from = placeOf(first);
    this.#to = this.#from;
  }

  move(samples: readonly HandSample[]): void {
    const last = samples.at(-1);
    if (!last) return;
    this.#to = placeOf(last);
    this.#page.band([this.#from, this.#to]);
  }

  up(): void {
    const within = strokesWithin(this.#page.strokes(), this.#from, this.#to);
    this.#page.band(null);
    this.#page.select(within.map(({ stroke }) => stroke.id));
  }

  abandon(): void {
    this.#page.band(null);
  }
}

/**
 * Selects: a stroke that is touched comes to what is selected, or leaves it; what is selected moves with the hand; a
 * rectangle drawn from where nothing is selects what lies in it.
 */
export const selecting = (page: UnderHand, first: HandSample): Doing => {
  const { x, y } = first;
  const reach = REACH / page.zoom();
  const selected = page.selected();
  const [touched] = strokesAt(page.strokes(), x, y, reach);
  const bounds = boundsOfAll(selected);
  const inside =
    bounds !== null &&
    x >= bounds.x - reach &&
    x <= bounds.x + bounds.width + reach &&
    y >= bounds.y - reach &&
    y <= bounds.y + bounds.height + reach;
  const ids = selected.map(({ stroke }) => stroke.id);
  if (inside) {
    return new Moving(page, first, () => {
      const id = touched?.stroke.id;
      if (id === undefined) page.select([]);
      else page.select(ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id]);
    });
  }
  if (!touched) return new Banding(page, first);
  const id = touched.stroke.id;
  page.select([...ids, id]);
  return new Moving(page, first, () => undefined);
};
