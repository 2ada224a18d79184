import type { InkPoint, ShownStroke } from './ink-track';
import type { XY } from './page';
import { pathsOf } from './paths';
import { isShape, type Pen } from './pen';

type Point = Pick<InkPoint, 'x' | 'y' | 'pressure'>;

const mix = (from: Point, to: Point, t: number): Point => ({
  x: from.x + (to.x - from.x) * t,
  y: from.y + (to.y - from.y) * t,
  pressure: from.pressure + (to.pressure - from.pressure) * t,
});

/** Which part of the way from one point to another lies within a circle, each 0 to 1; null for none of it. */
const inside = (from: Point, to: Point, [x, y]: XY, reach: number): [number, number] | null => {
  const [alongX, alongY] = [to.x - from.x, to.y - from.y];
  const [offX, offY] = [from.x - x, from.y - y];
  const a = alongX * alongX + alongY * alongY;
  const b = offX * alongX + offY * alongY;
  const c = offX * offX + offY * offY - reach * reach;
  if (a === 0) return c < 0 ? [0, 1] : null;
  const root = b * b - a * c;
  if (root <= 0) return null;
  const [enters, leaves] = [(-b - Math.sqrt(root)) / a, (-b + Math.sqrt(root)) / a];
  return leaves <= 0 || enters >= 1 ? null : [Math.max(0, enters), Math.min(1, leaves)];
};

/** What is left of a way when a round tip wipes a place of it: runs of points; null where it isn't touched. */
const leftOf = (points: readonly Point[], at: XY, reach: number): Point[][] | null => {
  const runs: Point[][] = [[]];
  let touched = false;
  for (const [index, to] of points.entries()) {
    const from = points[index - 1] ?? to;
    const wiped = inside(from, to, at, reach);
    if (!wiped) {
      runs.at(-1)!.push(to);
      continue;
    }
    touched = true;
    const [enters, leaves] = wiped;
    if (enters > 0) runs.at(-1)!.push(mix(from, to, enters));
    if (leaves < 1) runs.push([mix(from, to, leaves), to]);
    else runs.push([]);
  }
  return touched ? runs.filter((run) => run.length > 1) : null;
};

/** Corners of a shape stay corners when it goes on as a line of the hand: points along its sides. */
const ALONG = 24;

const along = (path: readonly XY[]): Point[] =>
  path.flatMap(([x, y], index): Point[] => {
    const [fromX, fromY] = path[index - 1] ?? [x, y];
    const steps = index === 0 ? 1 : ALONG;
    return Array.from({ length: steps }, (_, step) =>
      mix({ x: fromX, y: fromY, pressure: 0.5 }, { x, y, pressure: 0.5 }, (step + 1) / steps),
    );
  });

/** A stroke that is left of another. */
export interface LeftStroke {
  readonly pen: Pen;
  readonly points: readonly Point[];
}

/**
 * What is left of a stroke when a round tip wipes a part of it: strokes of the hand, in its pen. Words go as a whole.
 *
 * @param reach half of the tip's width, a fraction of the page's width
 * @returns null where the tip doesn't touch it
 */
export const partlyErased = (shown: ShownStroke, at: XY, reach: number): LeftStroke[] | null => {
  const { pen } = shown.stroke;
  const near = reach + pen.width / 2;
  const shape = isShape(pen.tool) || pen.tool === 'text';
  const ways: readonly (readonly Point[])[] = shape
    ? pathsOf(shown).map((path) => along(path))
    : [shown.points];
  const left = ways.map((way) => leftOf(way, at, near));
  if (left.every((runs) => runs === null)) return null;
  if (pen.tool === 'text') return [];
  const after: Pen = shape ? { ...pen, tool: 'pen' } : pen;
  return left.flatMap((runs, index) =>
    (runs ?? [ways[index]!]).map((points) => ({ pen: after, points })),
  );
};
