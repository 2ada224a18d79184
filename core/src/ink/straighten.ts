import { distanceToLine } from './hit';
import { extentOf } from './outline';
import type { XY } from './page';

/** What a stroke of the hand was meant to be: a shape, from one of its corners to the other. */
export interface Straightened {
  readonly tool: 'line' | 'box' | 'ellipse';
  readonly from: XY;
  readonly to: XY;
}

/** Points that a stroke is looked at in, evenly along it: a hand that rests leaves many at one place. */
const POINTS = 64;
/** How far the hand may stray from a line, of its length. */
const MOST_STRAY = 0.06;
/** How near the end of what goes round must come to its beginning, of its length. */
const MOST_OPEN = 0.2;
/** How far on average it may stray from the shape, of half the shape's smaller side. */
const MOST_OFF = 0.17;
/** A line that leans less than this is meant to be level, or upright: radians. */
const LEVEL = 0.07;

/** Points along a path, evenly; two at least. */
const evenly = (path: readonly XY[], count: number): XY[] => {
  const lengths = path.map((to, index) => {
    const from = path[Math.max(0, index - 1)]!;
    return Math.hypot(to[0] - from[0], to[1] - from[1]);
  });
  const all = lengths.reduce((sum, length) => sum + length, 0);
  const points: XY[] = [];
  let [index, before] = [1, 0];
  for (let n = 0; n < count; n++) {
    const along = (all * n) / (count - 1);
    while (index < path.length - 1 && before + lengths[index]! < along) before += lengths[index++]!;
    const [from, to] = [path[index - 1]!, path[index]!];
    const into = lengths[index]! > 0 ? Math.min(1, (along - before) / lengths[index]!) : 0;
    points.push([from[0] + (to[0] - from[0]) * into, from[1] + (to[1] - from[1]) * into]);
  }
  return points;
};

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

const levelled = (from: XY, to: XY): XY => {
  const [x, y] = [to[0] - from[0], to[1] - from[1]];
  if (Math.abs(Math.atan2(y, Math.abs(x))) < LEVEL) return [to[0], from[1]];
  if (Math.abs(Math.atan2(x, Math.abs(y))) < LEVEL) return [from[0], to[1]];
  return to;
};

/**
 * The line, the box or the ellipse that a stroke of the hand was meant to be.
 *
 * @param path where the hand went, fractions of the page's width
 * @param least shorter strokes are none of these, in the same unit
 * @returns null where it is none of them, or too short to tell
 */
export const straightened = (path: readonly XY[], least: number): Straightened | null => {
  if (path.length < 2) return null;
  const points = evenly(path, POINTS);
  const [first, last] = [points[0]!, points.at(-1)!];
  const length = points.reduce((sum, to, index) => {
    const from = points[Math.max(0, index - 1)]!;
    return sum + Math.hypot(to[0] - from[0], to[1] - from[1]);
  }, 0);
  if (length < least) return null;
  const across = Math.hypot(last[0] - first[0], last[1] - first[1]);
  const stray = Math.max(...points.map((point) => distanceToLine(point, first, last)));
  if (across > 0.9 * length && stray < MOST_STRAY * across) {
    return { tool: 'line', from: first, to: levelled(first, last) };
  }
  if (across > MOST_OPEN * length) return null;
  const { x, y, width, height } = extentOf(points.map(([px, py]) => ({ x: px, y: py })));
  const half = Math.min(width, height) / 2;
  if (half <= least / 8) return null;
  const sides = ([px, py]: XY) => Math.min(px - x, x + width - px, py - y, y + height - py) / half;
  const round = ([px, py]: XY) => {
    const from = Math.hypot((px - x) / (width / 2) - 1, (py - y) / (height / 2) - 1);
    return Math.abs(from - 1);
  };
  const [box, ellipse] = [mean(points.map(sides)), mean(points.map(round))];
  if (Math.min(box, ellipse) > MOST_OFF) return null;
  return { tool: box < ellipse ? 'box' : 'ellipse', from: [x, y], to: [x + width, y + height] };
};
