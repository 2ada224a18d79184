/**
 * Shapes that pointers have on common desktops, drawn from measures that most share: where their corners lie, in pixels
 * of a screen that is not scaled, from the place that they point at. They are matched, never drawn.
 */

type Corner = readonly [x: number, y: number];

export type PointerKind = 'arrow' | 'hand' | 'bar';

export interface PointerShape {
  /** Of each kind a screen has one. */
  readonly kind: PointerKind;
  readonly corners: readonly Corner[];
  /** How wide the line is that parts it from what lies under it, pixels, inside its corners. */
  readonly line: number;
  /** Too thin to be told from letters by itself: only what has changed on a page that is known is compared. */
  readonly thin: boolean;
}

/** A bar between letters, with feet. @param thick of its line */
const bar = (thick: number): readonly Corner[] => {
  const [left, right] = [0.5 - thick / 2, 0.5 + thick / 2];
  const foot = Math.max(1.1, thick * 0.7);
  return [
    ...([
      [-3.4, -8],
      [4.4, -8],
      [4.4, foot - 8],
      [right, foot - 8],
    ] as const),
    ...([
      [right, 8 - foot],
      [4.4, 8 - foot],
      [4.4, 8],
      [-3.4, 8],
    ] as const),
    ...([
      [-3.4, 8 - foot],
      [left, 8 - foot],
      [left, foot - 8],
      [-3.4, foot - 8],
    ] as const),
  ];
};

const arrow = (line: number, ...corners: Corner[]): PointerShape => ({
  ...{ kind: 'arrow', corners, line, thin: false },
});
const hand = (...corners: Corner[]): PointerShape => ({
  ...{ kind: 'hand', corners, line: 1.1, thin: false },
});

export const SHAPES: readonly PointerShape[] = [
  // With a short tail; its left corner lies as low as the tail ends, or higher.
  arrow(1.1, [0, 0], [0, 18.3], [3.8, 14.6], [5.9, 19.2], [8.7, 18.2], [6.8, 13], [12.4, 13]),
  arrow(1.1, [0, 0], [0, 16.2], [3.6, 12.9], [6.2, 18.8], [9, 17.6], [6.6, 12], [11.8, 12]),
  // With a long one.
  arrow(1, [0, 0], [0, 17.3], [4.6, 15.5], [6.8, 22.8], [11.2, 21.3], [8.5, 14], [13, 12]),
  // With hardly any, and with none.
  arrow(1.1, [0, 0], [0, 18], [4.4, 18], [7.1, 20.4], [9.2, 19.6], [9.2, 15.2], [12.6, 12.3]),
  arrow(1.2, [0, 0], [0, 18], [4.8, 13.2], [12.6, 12.6]),
  // A fist with one finger out, and a hand with its thumb out.
  hand(
    ...([
      [-1.3, 0.2],
      [1.6, 0.2],
      [2.2, 1.4],
      [2.2, 4.6],
      [6.4, 5.4],
      [10.6, 6.8],
      [10.9, 8.4],
    ] as const),
    ...([
      [10.6, 14.6],
      [9.6, 16],
      [-3.8, 16],
      [-4.7, 14.6],
      [-4.7, 8.2],
      [-3.6, 7.4],
      [-2, 7],
      [-2, 1.2],
    ] as const),
  ),
  hand(
    ...([
      [-1.6, 0],
      [1.4, 0],
      [2, 1.2],
      [2, 6.5],
      [5, 6.2],
      [8.5, 7.6],
      [10.6, 9.2],
      [11, 14],
      [9, 21],
    ] as const),
    ...([
      [-1.5, 21],
      [-2.5, 18],
      [-6.8, 12.6],
      [-6.6, 10.6],
      [-4.6, 10.4],
      [-2.2, 12.6],
      [-2.2, 1.2],
    ] as const),
  ),
  { kind: 'bar', corners: bar(1.1), line: 0, thin: true },
  // Dark with a light edge, on a dark page: the edge is what is seen.
  { kind: 'bar', corners: bar(3), line: 0, thin: true },
];

/** Scales that are tried: a screen that is shown smaller than it is, up to one of twice the pixels. */
export const SCALES = [0.75, 0.87, 1, 1.15, 1.33, 1.53, 1.76, 2.02, 2.3] as const;
