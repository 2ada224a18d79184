import type { Us } from '../../time/us';
import type { Match } from './match';

/** How far something has to have moved to be a pointer, pixels, and at how many places it has to have been seen. */
const MOVED = 12;
const SEEN = 3;
/** How well it has to fit at them in the mean. */
const FITS = 0.78;
/** What its moves have to say for it to be one; what proves it; and what is too much against it. */
const LIKE_ONE = 4;
const PROVEN = 10;
const UNLIKE = -4;
/** For so few pictures out of sight it is taken to have gone straight on. */
const BRIDGED = 2;

export interface Sample {
  readonly atUs: Us;
  readonly x: number;
  readonly y: number;
  readonly score: number;
}

/** Something that may be a pointer, followed from picture to picture. */
export class Trail {
  readonly samples: Sample[];
  at: Match;
  /** How far it went from the last picture to this one, pixels. */
  step = { x: 0, y: 0 };
  /** Pictures since it was seen last, and when it was last where it was. */
  unseen = 0;
  seenUs: Us;
  #moved = 0;
  #proof = 0;

  constructor(at: Match, atUs: Us) {
    this.at = at;
    this.seenUs = atUs;
    this.samples = [{ atUs, x: at.x, y: at.y, score: at.score }];
  }

  /**
   * It came from another place.
   *
   * @param sinceUs since when it lay there, and `untilUs` until when
   * @param proof what its move says
   */
  cameFrom({ x, y, score }: Match, sinceUs: Us, untilUs: Us, proof: number): void {
    if (sinceUs < untilUs) this.samples.unshift({ atUs: untilUs, x, y, score });
    this.samples.unshift({ atUs: sinceUs, x, y, score });
    this.step = { x: this.at.x - x, y: this.at.y - y };
    this.#moved = Math.hypot(this.step.x, this.step.y);
    this.#proof = proof;
  }

  /** It is where it was. */
  rests(atUs: Us): void {
    this.seenUs = atUs;
    this.step = { x: 0, y: 0 };
  }

  /**
   * It is seen at a place.
   *
   * @param times of all pictures up to this one
   * @returns what has to be kept of it, for nobody knows which way it went from there; null: nothing
   */
  isAt(found: Match, times: readonly Us[], mayBreak: boolean): readonly Sample[] | null {
    const { at, unseen } = this;
    const step = { x: found.x - at.x, y: found.y - at.y };
    this.#moved += Math.hypot(step.x, step.y);
    this.step = unseen === 0 ? step : { x: 0, y: 0 };
    const broken = this.#put(found, times, mayBreak);
    this.at = found;
    this.unseen = 0;
    this.seenUs = times.at(-1)!;
    return broken;
  }

  /** Puts down where something is now, if it isn't where it was. */
  #put({ x, y, score }: Match, times: readonly Us[], mayBreak: boolean): readonly Sample[] | null {
    const { samples, unseen, seenUs } = this;
    const last = samples.at(-1)!;
    if (last.x === x && last.y === y && unseen === 0) return null;
    let broken: readonly Sample[] | null = null;
    if (unseen > BRIDGED && mayBreak) {
      broken = samples.splice(0);
    } else {
      // It rested until it was seen there last.
      if (last.atUs < seenUs) samples.push({ ...last, atUs: seenUs });
      for (let one = 1; one <= unseen; one++) {
        const part = one / (unseen + 1);
        samples.push({
          atUs: times.at(one - unseen - 2)!,
          x: last.x + (x - last.x) * part,
          y: last.y + (y - last.y) * part,
          score: Math.min(last.score, score) / 2,
        });
      }
    }
    samples.push({ atUs: times.at(-1)!, x, y, score });
    return broken;
  }

  /** Adds what a move says. What has been proven stays so, even where it happens to go the way of what lies under it. */
  prove(by: number): void {
    if (this.#proof < PROVEN) this.#proof = Math.max(UNLIKE - 2, this.#proof + by);
  }

  /** Whether it has moved as pointers do. */
  get isPointer(): boolean {
    const places = this.samples.filter(({ x, y }, index) => {
      const before = this.samples[index - 1];
      return x !== before?.x || y !== before.y;
    });
    const mean = places.reduce((sum, { score }) => sum + score, 0) / places.length;
    return this.#moved >= MOVED && this.#proof >= LIKE_ONE && places.length >= SEEN && mean >= FITS;
  }

  /** Whether too much speaks against it. */
  get isUnlike(): boolean {
    return this.#proof <= UNLIKE;
  }
}
