/** A place in a picture: fractions of its width and height. */
export interface Corner {
  readonly x: number;
  readonly y: number;
}

/** Corners of a sheet in a photograph, clockwise from its upper left one. */
export type Corners = readonly [Corner, Corner, Corner, Corner];

/** All of the picture. */
export const WHOLE_PICTURE: Corners = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** Whether corners are those of the picture itself. */
export const areWhole = (corners: Corners): boolean =>
  corners.every(({ x, y }, index) => {
    const { x: wholeX, y: wholeY } = WHOLE_PICTURE[index]!;
    return x === wholeX && y === wholeY;
  });

/** How far two corners have to be apart, of the picture. */
const LEAST = 0.05;

/** Whether corners are those of a sheet: it is turned to neither side at any of them, and large enough to be seen. */
export const areSheet = (corners: Corners): boolean =>
  corners.every((corner, index) => {
    const next = corners[(index + 1) % 4]!;
    const after = corners[(index + 2) % 4]!;
    const turn =
      (next.x - corner.x) * (after.y - next.y) - (next.y - corner.y) * (after.x - next.x);
    return turn > 0 && Math.hypot(next.x - corner.x, next.y - corner.y) >= LEAST;
  });

/** The corners with one of them moved, inside of the picture; as they were where they would be no sheet. */
export const moveCorner = (corners: Corners, index: number, to: Corner): Corners => {
  const inside = (value: number) => Math.min(1, Math.max(0, value));
  const moved = corners.map((corner, at) =>
    at === index ? { x: inside(to.x), y: inside(to.y) } : corner,
  ) as unknown as Corners;
  return areSheet(moved) ? moved : corners;
};
