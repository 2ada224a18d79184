import type { Us } from '../../time/us';
import type { Changes } from './changes';
import type { Match } from './match';

/** How far round a pointer a press is seen, pixels. */
const ROUND = 40;
/** So many pictures a pointer has rested, and so many its place was still, before one is believed. */
const RESTED = 3;
const STILL = 5;
/** So many pixels have to change: a caret that blinks has fewer. */
const LEAST = 120;
/** What is seen comes so long after the press. */
const ANSWER_US: Us = 60_000;
/** Two presses closer than this are one. */
const APART_US: Us = 300_000;

/** Finds presses: the pointer rests, and the picture changes under it where it has been still. */
export class PressFinder {
  readonly found: { readonly atUs: Us; readonly x: number; readonly y: number }[] = [];
  readonly #changes: Changes;
  /** As {@link Changes.last}, as it was one picture earlier. */
  readonly #earlier: Int32Array;
  #at: Match | null = null;
  #rests = 0;

  constructor(changes: Changes) {
    this.#changes = changes;
    this.#earlier = new Int32Array(changes.last.length);
  }

  /** The picture, before this one, in which any of a rectangle's blocks changed last. */
  before(left: number, top: number, right: number, bottom: number): number {
    let last = 0;
    this.#changes.forBlocks(left, top, right, bottom, (block) => {
      last = Math.max(last, this.#earlier[block]!);
    });
    return last;
  }

  /** @param at where the pointer is; null where it isn't seen */
  next(at: Match | null, atUs: Us): void {
    const was = this.#at;
    const rests =
      at && was && at.x === was.x && at.y === was.y && at.template.shape === was.template.shape;
    this.#rests = rests ? this.#rests + 1 : 0;
    this.#at = at;
    if (at && this.#rests >= RESTED && this.#changes.count > 0 && this.#changedUnder(at)) {
      const last = this.found.at(-1);
      if (!last || atUs - last.atUs > APART_US) {
        this.found.push({ atUs: Math.max(0, atUs - ANSWER_US), x: at.x, y: at.y });
      }
    }
    this.#earlier.set(this.#changes.last);
  }

  #changedUnder({ x, y }: Match): boolean {
    const { picture, pixels } = this.#changes;
    let changed = 0;
    this.#changes.forBlocks(x - ROUND, y - ROUND, x + ROUND, y + ROUND, (block) => {
      if (pixels[block]! > 0 && picture - this.#earlier[block]! >= STILL) changed += pixels[block]!;
    });
    return changed >= LEAST;
  }
}
