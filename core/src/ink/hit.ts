import type { ShownStroke } from './ink-track';
import { aroundAll, type Rect } from '../scene/geometry';
import type { XY } from './page';
import { pathsOf } from './paths';

/** Distance of a point from a line between two, in their unit. */
export const distanceToLine = (at: XY, from: XY, to: XY): number => {
  const [alongX, alongY] = [to[0] - from[0], to[1] - from[1]];
  const length = alongX * alongX + alongY * alongY;
  const into = length > 0 ? ((at[0] - from[0]) * alongX + (at[1] - from[1]) * alongY) / length : 0;
  const on = Math.min(1, Math.max(0, into));
  return Math.hypot(at[0] - from[0] - on * alongX, at[1] - from[1] - on * alongY);
};

/**
 * Strokes that a round tip touches, the upper ones first.
 *
 * @param x fractions of the page's width, as all lengths here
 * @param reach half of the tip's width
 */
export const strokesAt = (
  strokes: readonly ShownStroke[],
  x: number,
  y: number,
  reach: number,
): ShownStroke[] =>
  strokes
    .filter((shown) => {
      const near = reach + shown.stroke.pen.width / 2;
      return pathsOf(shown).some((path) =>
        path.some(
          (corner, index) => distanceToLine([x, y], path[Math.max(0, index - 1)]!, corner) <= near,
        ),
      );
    })
    .reverse();

/** The upright rectangle that a stroke lies in, without the width of its line; widths of the page. */
export const boundsOf = (shown: ShownStroke): Rect => {
  const all = pathsOf(shown).flat();
  const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
};

/** The rectangle that some strokes lie in; null for none. */
export const boundsOfAll = (strokes: readonly ShownStroke[]): Rect | null =>
  strokes.length === 0 ? null : aroundAll(strokes.map(boundsOf));

/** Strokes that lie within a rectangle between two of its corners, the lower ones first. */
export const strokesWithin = (
  strokes: readonly ShownStroke[],
  [oneX, oneY]: XY,
  [otherX, otherY]: XY,
): ShownStroke[] =>
  strokes.filter((shown) => {
    const { x, y, width, height } = boundsOf(shown);
    return (
      x >= Math.min(oneX, otherX) &&
      y >= Math.min(oneY, otherY) &&
      x + width <= Math.max(oneX, otherX) &&
      y + height <= Math.max(oneY, otherY)
    );
  });
