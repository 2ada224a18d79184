import type { Us } from '../time/us';
import type { PointerPath } from './path';

interface Place {
  readonly x: number;
  readonly y: number;
}

/** A light that presses hold in place. */
export interface Held {
  /** Where it is held, widths of what is shown; null while it follows what points. */
  readonly place: Place | null;
  /** Where it was held before that, and since when it isn't any more. */
  readonly before: Place | null;
  readonly sinceUs: Us;
}

const FOLLOWS: Held = { place: null, before: null, sinceUs: -Infinity };

/**
 * What presses have done to a light until a time: one holds it where it is pressed, the next one elsewhere takes it
 * there, and one inside of it lets it go. Another page lets it go, too.
 *
 * @param radius of the light, widths of what is shown
 */
export const heldAt = ({ presses, turnsUs = [] }: PointerPath, us: Us, radius: number): Held => {
  const turnedUs = turnsUs.findLast((atUs) => atUs <= us) ?? -Infinity;
  let held = FOLLOWS;
  for (const { x, y, atUs } of presses) {
    if (atUs > us) break;
    if (atUs < turnedUs) continue;
    const { place } = held;
    const isInside = place !== null && Math.hypot(x - place.x, y - place.y) <= radius;
    held = { place: isInside ? null : { x, y }, before: place, sinceUs: atUs };
  }
  return held;
};

/** How long a light takes from one place to the next, µs. */
const GLIDE_US = 250_000;

/** Where such a light is at a time. @param pointed where something points then */
export const lightPlace = ({ place, before, sinceUs }: Held, us: Us, pointed: Place): Place => {
  const to = place ?? pointed;
  const part = (us - sinceUs) / GLIDE_US;
  if (!before || part >= 1) return to;
  const gone = part * part * (3 - 2 * part);
  return { x: before.x + (to.x - before.x) * gone, y: before.y + (to.y - before.y) * gone };
};
