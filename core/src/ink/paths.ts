import type { InkPoint, ShownStroke } from './ink-track';
import { arrowHead, extentOf } from './outline';
import type { XY } from './page';
import { LINE_HEIGHT } from './text';

/** Steps in which a curve that closes is gone round. */
const AROUND = 64;

const xyOf = ({ x, y }: InkPoint): XY => [x, y];

/**
 * The lines that a stroke goes along, each from corner to corner: of a shape those that are drawn, of what is drawn by
 * hand the way of the hand, of text a line through the middle of each line of letters, about as long as they are.
 */
export const pathsOf = ({
  stroke: { pen, text },
  points,
}: Pick<ShownStroke, 'stroke' | 'points'>): XY[][] => {
  const [from, to] = [points[0]!, points.at(-1)!];
  const [first, last] = [xyOf(from), xyOf(to)];
  const { x, y, width, height } = extentOf([from, to]);
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
          // Along the first side again: the corner that it begins with is as round as the others.
          [x + width, y],
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
      return text.split('\n').map((line, index): XY[] => {
        const middle = first[1] + (index * LINE_HEIGHT + 0.5) * pen.width;
        return [
          [first[0], middle],
          [first[0] + line.length * pen.width * 0.5, middle],
        ];
      });
  }
};
