import { areSheet, moveCorner, WHOLE_PICTURE, type Corners } from './corners';
import { evened } from './even-light';
import { findSheet } from './find-sheet';
import { sheetSize, straightened, type Pixels } from './straighten';

const [WIDE, HIGH] = [400, 300];
const CORNERS: Corners = [
  { x: 0.22, y: 0.12 },
  { x: 0.83, y: 0.2 },
  { x: 0.9, y: 0.9 },
  { x: 0.12, y: 0.84 },
];

/** Whether a pixel of the photograph is one of the sheet. */
const isOnSheet = (px: number, py: number, corners: Corners): boolean =>
  corners.every((corner, index) => {
    const next = corners[(index + 1) % 4]!;
    const [x, y] = [px / (WIDE - 1), py / (HIGH - 1)];
    return (next.x - corner.x) * (y - corner.y) - (next.y - corner.y) * (x - corner.x) >= 0;
  });

/** A sheet on a table, in the light of a lamp to the left, as a camera sees it. */
const photo = (): Pixels => {
  const data = new Uint8ClampedArray(WIDE * HIGH * 4).fill(255);
  for (let y = 0; y < HIGH; y++) {
    for (let x = 0; x < WIDE; x++) {
      const at = (y * WIDE + x) * 4;
      const light = 1 - (0.45 * x) / WIDE;
      const paper = isOnSheet(x, y, CORNERS);
      const [r, g, b] = paper ? [235, 225, 200] : [60, 48, 40];
      data.set([r! * light, g! * light, b! * light, 255], at);
    }
  }
  return { widthPx: WIDE, heightPx: HIGH, data };
};

const lumaOf = ({ data }: Pixels) =>
  Uint8Array.from({ length: data.length / 4 }, (_, pixel) => data[pixel * 4 + 1]!);

test('a frame that is drawn on a sheet is not its edge', () => {
  const source = photo();
  // A tenth in from its edges: the same corners, drawn nearer to their middle.
  const middle = { x: 0.5, y: 0.5 };
  const inner = CORNERS.map(({ x, y }) => ({
    x: middle.x + (x - middle.x) * 0.8,
    y: middle.y + (y - middle.y) * 0.8,
  }));
  inner.forEach((corner, index) => {
    const next = inner[(index + 1) % 4]!;
    for (let step = 0; step <= 600; step++) {
      const x = Math.round((corner.x + ((next.x - corner.x) * step) / 600) * (WIDE - 1));
      const y = Math.round((corner.y + ((next.y - corner.y) * step) / 600) * (HIGH - 1));
      for (let thick = 0; thick < 9; thick++) {
        source.data.fill(
          10,
          ((y + Math.floor(thick / 3)) * WIDE + x + (thick % 3)) * 4,
          ((y + Math.floor(thick / 3)) * WIDE + x + (thick % 3)) * 4 + 3,
        );
      }
    }
  });
  findSheet(lumaOf(source), WIDE, HIGH).forEach(({ x, y }, index) => {
    expect(Math.abs(x - CORNERS[index]!.x)).toBeLessThan(0.015);
    expect(Math.abs(y - CORNERS[index]!.y)).toBeLessThan(0.015);
  });
});

test('a light sheet on a darker table is found, and nothing where there is none', () => {
  const found = findSheet(lumaOf(photo()), WIDE, HIGH);
  found.forEach(({ x, y }, index) => {
    expect(Math.abs(x - CORNERS[index]!.x)).toBeLessThan(0.015);
    expect(Math.abs(y - CORNERS[index]!.y)).toBeLessThan(0.015);
  });
  expect(findSheet(new Uint8Array(WIDE * HIGH).fill(200), WIDE, HIGH)).toEqual(WHOLE_PICTURE);
  const speckled = Uint8Array.from({ length: WIDE * HIGH }, (_, at) =>
    (at * 7919) % 97 < 48 ? 20 : 220,
  );
  expect(findSheet(speckled, WIDE, HIGH)).toEqual(WHOLE_PICTURE);
});

test('what lies on the straight lines between its corners lies on its edges afterwards', () => {
  const source = photo();
  const flat = straightened(source, CORNERS);
  expect(flat).toMatchObject(sheetSize(CORNERS, source));
  // Nothing of the table is left, but for a pixel at the very edge.
  for (const [u, v] of [
    [0.01, 0.01],
    [0.99, 0.01],
    [0.99, 0.99],
    [0.01, 0.99],
    [0.5, 0.01],
    [0.01, 0.5],
  ]) {
    const at =
      (Math.round(v! * (flat.heightPx - 1)) * flat.widthPx + Math.round(u! * (flat.widthPx - 1))) *
      4;
    expect(flat.data[at]!).toBeGreaterThan(110);
  }
  // The whole picture stays as it is.
  const same = straightened(source, WHOLE_PICTURE);
  expect([same.widthPx, same.heightPx]).toEqual([WIDE, HIGH]);
  const off = same.data.reduce((sum, value, at) => sum + Math.abs(value - source.data[at]!), 0);
  expect(off / same.data.length).toBeLessThan(1);
});

test('the middle of a sheet, where its diagonals meet, is its middle afterwards', () => {
  const source = photo();
  const [p0, p1, p2, p3] = CORNERS;
  // Where two lines meet.
  const d = (p0.x - p2.x) * (p1.y - p3.y) - (p0.y - p2.y) * (p1.x - p3.x);
  const [m, n] = [p0.x * p2.y - p0.y * p2.x, p1.x * p3.y - p1.y * p3.x];
  const middle = {
    x: (m * (p1.x - p3.x) - (p0.x - p2.x) * n) / d,
    y: (m * (p1.y - p3.y) - (p0.y - p2.y) * n) / d,
  };
  const [mx, my] = [Math.round(middle.x * (WIDE - 1)), Math.round(middle.y * (HIGH - 1))];
  for (let y = my - 2; y <= my + 2; y++) {
    for (let x = mx - 2; x <= mx + 2; x++) source.data.set([255, 0, 0, 255], (y * WIDE + x) * 4);
  }
  const { data, widthPx, heightPx } = straightened(source, CORNERS);
  const at = (Math.round(heightPx / 2) * widthPx + Math.round(widthPx / 2)) * 4;
  expect([data[at]! > 200, data[at + 1]! < 60]).toEqual([true, true]);
});

test('its paper becomes even and light, whatever the lamp, and what is written stays dark', () => {
  const flat = straightened(photo(), CORNERS);
  const ink = Math.round(flat.heightPx / 3);
  for (let x = 20; x < flat.widthPx - 20; x++) {
    for (let y = ink; y < ink + 3; y++) {
      const at = (y * flat.widthPx + x) * 4;
      flat.data.set(
        [0, 1, 2].map((channel) => flat.data[at + channel]! * 0.25),
        at,
      );
    }
  }
  const { data, widthPx, heightPx } = evened(flat);
  const valueAt = (u: number, y: number) =>
    [0, 1, 2].map((channel) => data[(y * widthPx + Math.round(u * (widthPx - 1))) * 4 + channel]!);
  const paper = [0.1, 0.5, 0.9].flatMap((u) => valueAt(u, Math.round(heightPx * 0.7)));
  expect(Math.min(...paper)).toBeGreaterThan(235);
  const written = [0.1, 0.5, 0.9].flatMap((u) => valueAt(u, ink + 1));
  expect(Math.max(...written)).toBeLessThan(80);
});

test('corners stay those of a sheet, inside of the picture', () => {
  expect(moveCorner(WHOLE_PICTURE, 0, { x: 0.2, y: -3 })[0]).toEqual({ x: 0.2, y: 0 });
  // Past its neighbour it would be turned inside out.
  expect(moveCorner(CORNERS, 0, { x: 0.95, y: 0.95 })).toBe(CORNERS);
  expect(areSheet([CORNERS[1], CORNERS[0], CORNERS[2], CORNERS[3]])).toBe(false);
});
