import type { Us } from './us';

/** A delay that has grown by more than this, and stays so, is no drift: something was lost. */
const STEP_US = 30_000;
/** How long it must stay so, µs: longer than a burst in which a source catches up. */
const STAYS_US = 350_000;
/** How fast the estimate follows a growing delay: 2 ms a second is more than any crystal drifts. */
const SLEW = 0.002;

/** The offset between a source's clock and the common one, as far as it is known. */
const follow = (offsetUs: number, leastUs: number, passedUs: number): number => {
  if (leastUs <= offsetUs || leastUs > offsetUs + STEP_US) return leastUs;
  return Math.min(leastUs, offsetUs + SLEW * passedUs);
};

/**
 * Puts the timestamps of one source on the clock of the take, at once. For pictures, which can't be held
 * back: a camera lends only a few frames at a time.
 *
 * A source stamps what it delivers on a clock of its own, with an unknown start and a slow drift, and
 * delivers it after a delay that varies with the load of the machine. Nothing arrives before it was
 * taken, so the least `arrival − stamp` is the offset between the clocks (the minimum filter of NTP,
 * RFC 5905 §10). A smaller one is believed at once; a larger one is followed slowly, so that one late
 * delivery moves nothing, unless all are late for {@link STAYS_US}.
 */
export class SourceClock {
  #offsetUs: number | null = null;
  #lastUs = 0;
  /** Since when all deliveries have been late by a step, and the least of them. */
  #late: { sinceUs: Us; leastUs: number } | null = null;

  /**
   * Takes in one delivery and returns its time on the common clock.
   *
   * @param stampUs the source's own timestamp, µs
   * @param arrivalUs when it arrived on the common clock, µs; must not run backwards
   * @returns its time on the common clock, whole µs
   */
  place(stampUs: Us, arrivalUs: Us): Us {
    const seen = arrivalUs - stampUs;
    const offset = this.#offsetUs ?? seen;
    const passedUs = this.#offsetUs === null ? 0 : arrivalUs - this.#lastUs;
    this.#lastUs = arrivalUs;
    if (seen <= offset + STEP_US) {
      this.#late = null;
      this.#offsetUs = follow(offset, seen, passedUs);
    } else {
      this.#late ??= { sinceUs: arrivalUs, leastUs: seen };
      this.#late.leastUs = Math.min(this.#late.leastUs, seen);
      this.#offsetUs = offset;
      if (arrivalUs - this.#late.sinceUs >= STAYS_US) {
        this.#offsetUs = this.#late.leastUs;
        this.#late = null;
      }
    }
    return Math.round(stampUs + this.#offsetUs);
  }
}

/** Something delivered, and when it was taken, on the common clock. */
export interface Placed<T> {
  readonly item: T;
  readonly atUs: Us;
}

interface Delivery<T> {
  readonly item: T;
  readonly stampUs: Us;
  readonly arrivalUs: Us;
}

/**
 * The same for sound, which can wait a little: each block is placed when the deliveries of the next
 * {@link STAYS_US} are known, by the least delay among them. So a source that stands still (its samples
 * just stop and go on) is seen at the very block where it happened, and not a moment later.
 */
export class LookAheadClock<T> {
  #waiting: Delivery<T>[] = [];
  #offsetUs: number | null = null;
  #lastUs = 0;

  /** Takes in one delivery; gives back, in order, those that can be placed now. */
  place(item: T, stampUs: Us, arrivalUs: Us): Placed<T>[] {
    this.#waiting.push({ item, stampUs, arrivalUs });
    return this.#placeUntil(arrivalUs - STAYS_US);
  }

  /** No more will come: places what is left. */
  flush(): Placed<T>[] {
    return this.#placeUntil(Number.POSITIVE_INFINITY);
  }

  #placeUntil(untilUs: number): Placed<T>[] {
    const placed: Placed<T>[] = [];
    while (this.#waiting[0] && this.#waiting[0].arrivalUs < untilUs) {
      let least = Number.POSITIVE_INFINITY;
      for (let index = 0; index < this.#waiting.length; index++) {
        const delivery = this.#waiting[index]!;
        least = Math.min(least, delivery.arrivalUs - delivery.stampUs);
      }
      const { item, stampUs, arrivalUs } = this.#waiting.shift()!;
      const passedUs = this.#offsetUs === null ? 0 : arrivalUs - this.#lastUs;
      this.#offsetUs = follow(this.#offsetUs ?? least, least, passedUs);
      this.#lastUs = arrivalUs;
      placed.push({ item, atUs: Math.round(stampUs + this.#offsetUs) });
    }
    return placed;
  }
}
