import type { InkPoint, ShownStroke } from './ink-track';
import { arrowHead, extentOf } from './outline';
import { LINE_HEIGHT } from './text';

type XY = readonly [x: number, y: number];

/** Distance of a point from a line between two, in their unit. */
export const distanceToLine = (at: XY, from: XY, to: XY): number => {
  const [alongX, alongY] = [to[0] - from[0], to[1] - from[1]];
  const length = alongX * alongX + alongY * alongY;
  const into = length > 0 ? ((at[0] - from[0]) * alongX + (at[1] - from[1]) * alongY) / length : 0;
  const on = Math.min(1, Math.max(0, into));
  return Math.hypot(at[0] - from[0] - on * alongX, at[1] - from[1] - on * alongY);
};

const xyOf = ({ x, y }: InkPoint): XY => [x, y];

/** Steps in which a curve that closes is gone round. */
const AROUND = 48;

/** The lines that a stroke is drawn along, each as its corners. */
const pathsOf = ({ stroke: { pen, text }, points }: ShownStroke): XY[][] => {
  const [first, last] = [xyOf(points[0]!), xyOf(points.at(-1)!)];
  const { x, y, width, height } = extentOf([points[0]!, points.at(-1)!]);
  switch (pen.tool) {
    case 'pen':
    case 'highlighter':
      return [points.map(xyOf)];
    case 'line':
      return [[first, last]];
    case 'arrow': {
      const [one, other] = arrowHead(first, last, pen.width);
      return [
        [first, last],
        [one, last, other],
      ];
    }
    case 'box':
      return [
        [
          [x, y],
          [x + width, y],
          [x + width, y + height],
          [x, y + height],
          [x, y],
        ],
      ];
    case 'ellipse':
      return [
        Array.from({ length: AROUND + 1 }, (_, step): XY => {
          const turn = (step / AROUND) * 2 * Math.PI;
          return [x + (width / 2) * (1 + Math.cos(turn)), y + (height / 2) * (1 + Math.sin(turn))];
        }),
      ];
    case 'text':
      // A line through the middle of each line of letters, about as long as they are.
      return text.split('\n').map((line, index): XY[] => {
        const middle = first[1] + (index * LINE_HEIGHT + 0.5) * pen.width;
        return [
          [first[0], middle],
          [first[0] + line.length * pen.width * 0.5, middle],
        ];
      });
  }
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
