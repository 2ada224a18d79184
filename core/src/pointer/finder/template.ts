import { SCALES, SHAPES, type PointerShape } from './shapes';

/** A shape at a scale as it is looked for in pictures of some width. */
export interface Template {
  readonly shape: PointerShape;
  readonly scale: number;
  /** It is not what was drawn here, but what the screen itself has shown. */
  readonly isTaught: boolean;
  readonly cells: readonly { readonly x: number; readonly y: number }[];
  /** What is compared: how far each pixel lies from the place that it points at, in pixels of the picture's rows. */
  readonly offsets: Int32Array;
  /** What is expected at each: their mean is 0 and their squares sum to 1. */
  readonly weights: Float32Array;
  /** A few of the brightest and as many of the darkest, to be asked first. */
  readonly bright: Int32Array;
  readonly dark: Int32Array;
  /** A part of them all, spread over the shape, to be asked next. */
  readonly some: Pick<Template, 'offsets' | 'weights'>;
  /** Its reach from the place that it points at, pixels. */
  readonly left: number;
  readonly right: number;
  readonly up: number;
  readonly down: number;
}

/** Samples of a pixel, to each side. */
const SAMPLES = 2;
/** Pixels that are asked first, of each kind; and all that are asked next. */
const FIRST = 8;
const NEXT = 36;

type Corner = readonly [number, number];

/** How far inside of a shape a place lies, pixels; less than 0 outside. */
const depthIn = (corners: readonly Corner[], x: number, y: number): number => {
  let inside = false;
  let least = Infinity;
  for (let index = 0, before = corners.length - 1; index < corners.length; before = index++) {
    const [ax, ay] = corners[before]!;
    const [bx, by] = corners[index]!;
    const dx = bx - ax;
    const dy = by - ay;
    if (ay > y !== by > y && x < (dx * (y - ay)) / dy + ax) inside = !inside;
    const part = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
    const away = (x - ax - part * dx) ** 2 + (y - ay - part * dy) ** 2;
    if (away < least) least = away;
  }
  return inside ? Math.sqrt(least) : -1;
};

interface Cell {
  readonly x: number;
  readonly y: number;
  /** How much of it is of the shape, 0 to 1. */
  readonly covered: number;
  /** How much of what is covered is filled, and no line. */
  readonly filled: number;
}

/** The shape in pixels. */
const cellsOf = (shape: PointerShape, scale: number): Cell[] => {
  const corners = shape.corners.map(([x, y]) => [x * scale, y * scale] as const);
  const line = shape.line * Math.max(1, scale);
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const around = shape.thin ? 2 : 0;
  const cells: Cell[] = [];
  for (let y = Math.floor(Math.min(...ys)) - around; y <= Math.max(...ys) + around; y++) {
    for (let x = Math.floor(Math.min(...xs)) - around; x <= Math.max(...xs) + around; x++) {
      let [covered, filled] = [0, 0];
      for (let sample = 0; sample < SAMPLES * SAMPLES; sample++) {
        const sx = x + ((sample % SAMPLES) + 0.5) / SAMPLES;
        const sy = y + (Math.floor(sample / SAMPLES) + 0.5) / SAMPLES;
        const depth = depthIn(corners, sx, sy);
        if (depth >= 0) covered++;
        if (depth >= line) filled++;
      }
      const all = SAMPLES * SAMPLES;
      cells.push({ x, y, covered: covered / all, filled: covered > 0 ? filled / covered : 0 });
    }
  }
  return cells;
};

type Spot = Pick<Cell, 'x' | 'y'>;

/** Directions in which dark places are looked for: each is followed by its opposite, so that what only grows lighter doesn't pass. */
const DIRECTIONS = [0, 4, 2, 6, 1, 5, 3, 7].map((eighth) => (eighth * Math.PI) / 4);

/** Dark places all round a shape, each with a bright one beside it. */
const pairsOf = (
  bright: readonly Spot[],
  dark: readonly Spot[],
): { readonly bright: Spot; readonly dark: Spot }[] => {
  const mean = (of: (spot: Spot) => number) =>
    bright.reduce((sum, spot) => sum + of(spot), 0) / bright.length;
  const [x, y] = [mean((spot) => spot.x), mean((spot) => spot.y)];
  const least = (spots: readonly Spot[], of: (spot: Spot) => number) =>
    spots.reduce((best, spot) => (of(spot) < of(best) ? spot : best));
  return DIRECTIONS.slice(0, FIRST).map((angle) => {
    const edge = least(dark, (spot) => {
      const away = Math.hypot(spot.x - x, spot.y - y);
      const along = Math.cos(angle) * (spot.x - x) + Math.sin(angle) * (spot.y - y);
      return away - 2 * along;
    });
    return {
      dark: edge,
      bright: least(bright, (spot) => Math.hypot(spot.x - edge.x, spot.y - edge.y)),
    };
  });
};

/** Lays out what is compared, and in which order. @param values what is expected at each of the cells */
const laidOut = (
  { shape, scale }: Pick<Template, 'shape' | 'scale'>,
  cells: readonly Pick<Cell, 'x' | 'y'>[],
  values: readonly number[],
  widthPx: number,
  isTaught = false,
): Template => {
  const offset = ({ x, y }: Spot) => y * widthPx + x;
  const ranked = cells.map((_, index) => index).sort((a, b) => values[b]! - values[a]! || a - b);
  const few = Math.max(FIRST, Math.floor(cells.length / 4));
  const pairs = pairsOf(
    ranked.slice(0, few).map((index) => cells[index]!),
    ranked.slice(-few).map((index) => cells[index]!),
  );
  const step = cells.length / NEXT;
  const spreadOut = Array.from({ length: NEXT }, (_, index) => Math.floor((index + 0.5) * step));
  const compared = (of: readonly number[]) => {
    const mean = of.reduce((sum, one) => sum + values[one]!, 0) / of.length;
    const length = Math.sqrt(of.reduce((sum, one) => sum + (values[one]! - mean) ** 2, 0));
    return {
      offsets: Int32Array.from(of.map((one) => offset(cells[one]!))),
      weights: Float32Array.from(of.map((one) => (values[one]! - mean) / length)),
    };
  };
  return {
    ...{ shape, scale, cells, isTaught },
    ...compared(cells.map((_, index) => index)),
    bright: Int32Array.from(pairs.map(({ bright }) => offset(bright))),
    dark: Int32Array.from(pairs.map(({ dark }) => offset(dark))),
    some: compared(spreadOut),
    left: -Math.min(...cells.map(({ x }) => x)),
    right: Math.max(...cells.map(({ x }) => x)),
    up: -Math.min(...cells.map(({ y }) => y)),
    down: Math.max(...cells.map(({ y }) => y)),
  };
};

const templateOf = (shape: PointerShape, scale: number, widthPx: number): Template => {
  const all = cellsOf(shape, scale);
  // Of a thin one what lies beside it counts as well: nothing is to have changed there.
  const cells = shape.thin ? all : all.filter(({ covered }) => covered >= 0.6);
  const values = cells.map(({ covered, filled }) => (shape.thin ? covered : filled));
  return laidOut({ shape, scale }, cells, values, widthPx);
};

/** The shape as it has been seen. @param values brightness of each of its cells */
export const taught = (template: Template, values: readonly number[], widthPx: number): Template =>
  laidOut(template, template.cells, values, widthPx, true);

const MADE = new Map<number, readonly Template[]>();

/** Every shape at every scale. @param widthPx of the pictures */
export const templatesFor = (widthPx: number): readonly Template[] => {
  const made =
    MADE.get(widthPx) ??
    SCALES.flatMap((scale) => SHAPES.map((shape) => templateOf(shape, scale, widthPx)));
  MADE.set(widthPx, made);
  return made;
};

const BETWEEN = new WeakMap<Template, readonly Template[]>();

/** Shapes of a kind at scales between those that are tried. @param widthPx of the pictures */
export const between = (template: Template, widthPx: number): readonly Template[] => {
  const { shape, scale } = template;
  const made =
    BETWEEN.get(template) ??
    [0.94, 0.97, 1, 1.03, 1.06].flatMap((part) =>
      SHAPES.filter(({ kind }) => kind === shape.kind).map((one) =>
        templateOf(one, scale * part, widthPx),
      ),
    );
  BETWEEN.set(template, made);
  return made;
};
