import type { PointerEvent } from 'react';

/** A palm that lies down after the pen was there is ignored for this long, ms. */
const PALM_MS = 3_000;

/** Which pointer writes: a pen before a finger, and one at a time. */
export class Hand {
  #pointer: number | null = null;
  #penAt = -Infinity;

  /** Whether what comes down may write. */
  takes({ pointerId, pointerType, isPrimary, button }: PointerEvent): boolean {
    if (pointerType === 'pen') this.#penAt = performance.now();
    else if (pointerType === 'touch' && performance.now() - this.#penAt < PALM_MS) return false;
    if (this.#pointer !== null || !isPrimary || button !== 0) return false;
    this.#pointer = pointerId;
    return true;
  }

  /** Whether this is the one that writes; a pen that is near is remembered. */
  is({ pointerId, pointerType }: PointerEvent): boolean {
    if (pointerType === 'pen') this.#penAt = performance.now();
    return pointerId === this.#pointer;
  }

  lifts(): void {
    this.#pointer = null;
  }
}

/** How long a hand rests until that is meant, ms, and how far it may tremble: fractions of the page's width. */
const REST_MS = 650;
const TREMBLE = 0.006;

/** Tells when a hand that is down rests at a place. */
export class Resting {
  readonly #onRest: () => void;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #at: { readonly x: number; readonly y: number } | null = null;

  constructor(onRest: () => void) {
    this.#onRest = onRest;
  }

  /** It is down, here. */
  at(place: { readonly x: number; readonly y: number }): void {
    const from = this.#at;
    if (from && Math.hypot(place.x - from.x, place.y - from.y) < TREMBLE) return;
    this.lifts();
    this.#at = place;
    this.#timer = setTimeout(this.#onRest, REST_MS);
  }

  lifts(): void {
    clearTimeout(this.#timer);
    this.#at = null;
  }
}
