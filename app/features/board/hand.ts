import type { PointerEvent } from 'react';

/** A palm that lies down after the pen was there is ignored for this long, ms. */
const PALM_MS = 3_000;

/** Which pointer writes: a pen before a finger, and one at a time. */
export class Hand {
  #pointer: number | null = null;
  #penAt = -Infinity;

  /** Whether this is a palm: a touch while a pen is near, or has been. */
  isPalm({ pointerType }: PointerEvent): boolean {
    return pointerType === 'touch' && performance.now() - this.#penAt < PALM_MS;
  }

  /** Whether what comes down may write. */
  takes(event: PointerEvent): boolean {
    const { pointerId, pointerType, isPrimary, button } = event;
    if (pointerType === 'pen') this.#penAt = performance.now();
    if (this.isPalm(event) || this.#pointer !== null || !isPrimary || button !== 0) return false;
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

/** A pen held as flat as this (radians over the page) or flatter draws broader, as chalk does on its side. */
const FLAT = Math.PI / 4;

/**
 * How hard something writes, 0 to 1. A mouse and most fingers tell nothing: middling. A pen that is held flat writes
 * broader than one that is held upright.
 *
 * @see Pointer Events level 3, `pressure` and `altitudeAngle`
 */
export const pressureOf = ({
  pointerType,
  pressure,
  altitudeAngle = Math.PI / 2,
}: Pick<globalThis.PointerEvent, 'pointerType' | 'pressure'> & {
  readonly altitudeAngle?: number;
}): number => {
  if (pointerType !== 'pen') return 0.5;
  const flat = Math.max(0, 1 - altitudeAngle / FLAT);
  return Math.min(1, pressure + flat * 0.4);
};

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

/** Two fingers: where they are, px of the window. */
interface Spread {
  readonly middle: readonly [number, number];
  readonly apart: number;
}

/** Follows fingers, and tells when two of them move the page. */
export class Pinch {
  readonly #fingers = new Map<number, readonly [number, number]>();
  #before: Spread | null = null;

  #spread(): Spread | null {
    const [one, other] = [...this.#fingers.values()];
    if (!one || !other) return null;
    return {
      middle: [(one[0] + other[0]) / 2, (one[1] + other[1]) / 2],
      apart: Math.max(1, Math.hypot(one[0] - other[0], one[1] - other[1])),
    };
  }

  /** @returns whether two fingers are down now */
  down({ pointerId, clientX, clientY }: PointerEvent): boolean {
    this.#fingers.set(pointerId, [clientX, clientY]);
    this.#before = this.#spread();
    return this.#before !== null;
  }

  /** @returns how two fingers have moved; null while there are fewer */
  move({ pointerId, clientX, clientY }: PointerEvent): {
    readonly from: readonly [number, number];
    readonly to: readonly [number, number];
    readonly times: number;
  } | null {
    if (!this.#fingers.has(pointerId)) return null;
    this.#fingers.set(pointerId, [clientX, clientY]);
    const [before, after] = [this.#before, this.#spread()];
    this.#before = after;
    if (!before || !after) return null;
    return { from: before.middle, to: after.middle, times: after.apart / before.apart };
  }

  up({ pointerId }: PointerEvent): void {
    this.#fingers.delete(pointerId);
    this.#before = this.#spread();
  }
}
