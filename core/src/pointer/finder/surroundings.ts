import { STEP } from './changes';
import type { Match, Pictures } from './match';

/** How wide a ring round a shape is compared, pixels. */
const RING = 13;
/** So much round it may be its shadow: that says nothing. */
const SHADOW = 8;
/** So many pixels of the ring have to be seen, and so far off they have to be in the mean where they don't fit, of 255. */
const LEAST_RING = 60;
const EVEN_RING = 4;
/** So much of it has to be as it was, to be said to have stood still. */
const STILL = 0.75;
/** By so much it has to fit better one way than the other, to be said to have moved along or not. */
const ALONG = 0.8;
/** How far over and under a shape it is seen whether something goes on there, pixels. */
const BESIDE = 4;

/** Whether a place lies in what a ring goes round. */
const isWithin = (x: number, y: number, wide: number, high: number): boolean =>
  x >= RING - SHADOW &&
  x <= wide - RING + SHADOW &&
  y >= RING - SHADOW &&
  y <= high - RING + SHADOW;

/**
 * What a move says for its being a pointer, −2 to 2: what lies round it stood still meanwhile, or fits what was there
 * before better than what would have come along. What moves as its surroundings do is a part of them.
 */
export const proofOf = (
  from: Match,
  to: Match,
  { widthPx, heightPx, now, before }: Pictures,
): number => {
  const { left, right, up, down } = to.template;
  const [wide, high] = [left + right + 2 * RING, up + down + 2 * RING];
  const isOut = ({ x, y }: Match) =>
    x - left < RING || y - up < RING || x + right + RING >= widthPx || y + down + RING >= heightPx;
  if (isOut(from) || isOut(to)) return 0;
  const isAt = (to.y - up - RING) * widthPx + to.x - left - RING;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const came = -dy * widthPx - dx;
  let count = 0;
  let still = 0;
  let offStill = 0;
  let offAlong = 0;
  for (let y = 0; y < high; y++) {
    for (let x = 0; x < wide; x++) {
      if (isWithin(x, y, wide, high)) continue;
      // Where it came from, it has gone from, and where it went, it will have come to: that says nothing.
      if (isWithin(x + dx, y + dy, wide, high) || isWithin(x - dx, y - dy, wide, high)) continue;
      const at = isAt + y * widthPx + x;
      const is = now[at]!;
      const stood = Math.abs(before[at]! - is);
      count++;
      if (stood <= STEP) still++;
      offStill += stood;
      offAlong += Math.abs(before[at + came]! - is);
    }
  }
  if (count < LEAST_RING) return 0;
  // Where nothing has changed, nothing has moved along.
  if (offStill > EVEN_RING * count && offAlong < offStill * ALONG) return -2;
  if (still > count * STILL) return 2;
  // An even ground tells nothing.
  if (Math.max(offStill, offAlong) < EVEN_RING * count) return 0;
  return offStill < offAlong * ALONG ? 1 : 0;
};

/** Whether something stays where it is while what lies round it goes on. */
export const restsAlone = (
  { x, y, template: { left, right, up, down } }: Match,
  { widthPx, heightPx, now, before }: Pictures,
): boolean => {
  let [count, other] = [0, 0];
  for (const row of [y - up - BESIDE, y + down + BESIDE]) {
    if (row < 0 || row >= heightPx) continue;
    for (let at = Math.max(0, x - left); at <= Math.min(widthPx - 1, x + right); at++) {
      count++;
      const pixel = row * widthPx + at;
      if (Math.abs(now[pixel]! - before[pixel]!) > STEP) other++;
    }
  }
  return count > 0 && other > count / 2;
};
