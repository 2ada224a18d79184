import type { Corners } from './corners';

/** A picture: RGBA, row by row. */
export interface Pixels {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly data: Uint8ClampedArray;
}

/** Longest side of what comes out, px: as sharp as any film shows it, come close to. */
const LONGEST = 2_600;

/** The size of a sheet when it lies flat, px: as many as it has where most of them are. */
export const sheetSize = (
  corners: Corners,
  { widthPx, heightPx }: Pick<Pixels, 'widthPx' | 'heightPx'>,
): { widthPx: number; heightPx: number } => {
  const side = (from: number, to: number) =>
    Math.hypot(
      (corners[to]!.x - corners[from]!.x) * widthPx,
      (corners[to]!.y - corners[from]!.y) * heightPx,
    );
  const wide = Math.max(side(0, 1), side(3, 2));
  const high = Math.max(side(0, 3), side(1, 2));
  const shrunk = Math.min(1, LONGEST / Math.max(wide, high));
  return {
    widthPx: Math.max(1, Math.round(wide * shrunk)),
    heightPx: Math.max(1, Math.round(high * shrunk)),
  };
};

/**
 * Where a place of the flat sheet (fractions of it) lies in the photograph, px: the projection of the unit square (P.
 * Heckbert, “Fundamentals of Texture Mapping and Image Warping”, 1989, section 2.2.3).
 */
const projectionOf = (corners: Corners, widthPx: number, heightPx: number) => {
  const [x0, x1, x2, x3] = corners.map(({ x }) => x * (widthPx - 1)) as [
    ...[number, number, number, number],
  ];
  const [y0, y1, y2, y3] = corners.map(({ y }) => y * (heightPx - 1)) as [
    ...[number, number, number, number],
  ];
  const [dx1, dx2, sx] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3];
  const [dy1, dy2, sy] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3];
  const den = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / den;
  const h = (dx1 * sy - sx * dy1) / den;
  return {
    ...{ a: x1 - x0 + g * x1, b: x3 - x0 + h * x3, c: x0 },
    ...{ d: y1 - y0 + g * y1, e: y3 - y0 + h * y3, f: y0, g, h },
  };
};

/** Lays a sheet flat: what lies between its corners fills the picture, each pixel mixed of the four that it lies between. */
export const straightened = (photo: Pixels, corners: Corners): Pixels => {
  const { widthPx, heightPx } = sheetSize(corners, photo);
  const { a, b, c, d, e, f, g, h } = projectionOf(corners, photo.widthPx, photo.heightPx);
  const from = photo.data;
  const data = new Uint8ClampedArray(widthPx * heightPx * 4);
  const [lastX, lastY] = [photo.widthPx - 1, photo.heightPx - 1];
  let to = 0;
  for (let row = 0; row < heightPx; row++) {
    const v = (row + 0.5) / heightPx;
    for (let column = 0; column < widthPx; column++, to += 4) {
      const u = (column + 0.5) / widthPx;
      const w = g * u + h * v + 1;
      const x = Math.min(lastX, Math.max(0, (a * u + b * v + c) / w));
      const y = Math.min(lastY, Math.max(0, (d * u + e * v + f) / w));
      const [left, top] = [Math.min(lastX - 1, x | 0), Math.min(lastY - 1, y | 0)];
      const [right, below] = [x - left, y - top];
      const at = (top * photo.widthPx + left) * 4;
      const under = at + photo.widthPx * 4;
      for (let channel = 0; channel < 4; channel++) {
        const upper = from[at + channel]! * (1 - right) + from[at + 4 + channel]! * right;
        const lower = from[under + channel]! * (1 - right) + from[under + 4 + channel]! * right;
        data[to + channel] = upper * (1 - below) + lower * below;
      }
    }
  }
  return { widthPx, heightPx, data };
};
