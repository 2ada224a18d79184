import { getStroke } from 'perfect-freehand';
import type { InkPoint } from './ink-track';
import type { XY } from './page';
import type { Pen } from './pen';

/**
 * The outline of a stroke of a pen or a highlighter, as the corners of a polygon that is smooth when its corners are
 * the controls of quadratic curves between the middles of its edges. Fractions of the page's width.
 *
 * @param done false while it is being drawn: its end is the hand's
 */
export const outlineOf = (
  points: readonly Pick<InkPoint, 'x' | 'y' | 'pressure'>[],
  { tool, width }: Pen,
  done: boolean,
): XY[] => {
  // Counted in widths of the line: what it does to curves is meant for pixels.
  const SCALE = 1_000;
  const even = tool === 'highlighter';
  const outline = getStroke(
    points.map(({ x, y, pressure }) => [x * SCALE, y * SCALE, pressure]),
    {
      size: width * SCALE,
      thinning: even ? 0 : 0.55,
      smoothing: 0.5,
      streamline: 0.35,
      simulatePressure: false,
      last: done,
      ...(even ? { start: { cap: false }, end: { cap: false } } : {}),
    },
  );
  return outline.map(([x, y]) => [x! / SCALE, y! / SCALE] as const);
};

/** The head of an arrow from one point to another: its two ends beside the tip. Fractions of the page's width. */
export const arrowHead = (from: XY, tip: XY, width: number): [XY, XY] => {
  const length = Math.hypot(tip[0] - from[0], tip[1] - from[1]);
  const size = Math.min(length * 0.6, width * 5);
  const angle = Math.atan2(tip[1] - from[1], tip[0] - from[0]);
  const end = (turn: number): XY => [
    tip[0] - size * Math.cos(angle + turn),
    tip[1] - size * Math.sin(angle + turn),
  ];
  return [end(0.5), end(-0.5)];
};

/** The upright rectangle that a box or an ellipse fills, whichever way it was drawn. */
export const extentOf = (
  points: readonly Pick<InkPoint, 'x' | 'y'>[],
): { x: number; y: number; width: number; height: number } => {
  const xs = points.map(({ x }) => x);
  const ys = points.map(({ y }) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
};
