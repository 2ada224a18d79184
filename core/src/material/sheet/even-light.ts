import type { Pixels } from './straighten';

/** Parts in which it is found how light paper is, along the longer side. */
const PARTS = 40;
/** So much of a part is darker than what is taken for its paper. */
const DARKER = 0.85;
/** What paper becomes, and what is made black, of 255. */
const PAPER = 250;
const BLACK = 28;
/** Darker than so much of what the sheet's paper is mostly like is no paper: a picture on it. */
const NO_PAPER = 0.55;

/** How light the paper is in each part of a sheet, in each of its colours. */
interface Light {
  readonly columns: number;
  readonly rows: number;
  readonly of: readonly [Float64Array, Float64Array, Float64Array];
}

const blurred = (values: Float64Array, columns: number, rows: number): Float64Array =>
  values.map((_, index) => {
    const [x, y] = [index % columns, Math.floor(index / columns)];
    let [sum, count] = [0, 0];
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const [cx, cy] = [x + dx, y + dy];
        if (cx < 0 || cy < 0 || cx >= columns || cy >= rows) continue;
        sum += values[cy * columns + cx]!;
        count++;
      }
    }
    return sum / count;
  });

const lightOf = ({ widthPx, heightPx, data }: Pixels): Light => {
  const side = Math.max(8, Math.ceil(Math.max(widthPx, heightPx) / PARTS));
  const [columns, rows] = [Math.ceil(widthPx / side), Math.ceil(heightPx / side)];
  const of = [0, 1, 2].map((channel) => {
    const values = new Float64Array(columns * rows);
    const counts = new Uint32Array(256);
    for (let part = 0; part < values.length; part++) {
      const [left, top] = [(part % columns) * side, Math.floor(part / columns) * side];
      counts.fill(0);
      let all = 0;
      for (let y = top; y < Math.min(heightPx, top + side); y++) {
        for (let x = left; x < Math.min(widthPx, left + side); x++, all++) {
          counts[data[(y * widthPx + x) * 4 + channel]!]!++;
        }
      }
      let [value, below] = [0, counts[0]!];
      while (below < DARKER * all) below += counts[++value]!;
      values[part] = value;
    }
    // What is far darker than the paper mostly is, is something on it: the light of its neighbours is taken.
    const typical = [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.6)]!;
    const paper = values.map((value) => (value < typical * NO_PAPER ? typical : value));
    return blurred(blurred(paper, columns, rows), columns, rows);
  });
  return { columns, rows, of: of as unknown as Light['of'] };
};

/** Takes shadows and the colour of the light off a sheet: its paper becomes even and light, what is written stays dark. */
export const evened = (sheet: Pixels): Pixels => {
  const { widthPx, heightPx, data } = sheet;
  const { columns, rows, of } = lightOf(sheet);
  const out = new Uint8ClampedArray(data.length);
  const partAt = (pixel: number, px: number, parts: number) => {
    const place = Math.min(parts - 1, Math.max(0, ((pixel + 0.5) / px) * parts - 0.5));
    const first = Math.min(parts - 1, Math.floor(place));
    return { first, next: Math.min(parts - 1, first + 1), part: place - first };
  };
  const across = Array.from({ length: widthPx }, (_, x) => partAt(x, widthPx, columns));
  for (let y = 0; y < heightPx; y++) {
    const down = partAt(y, heightPx, rows);
    const [upper, lower] = [down.first * columns, down.next * columns];
    for (let x = 0; x < widthPx; x++) {
      const { first, next, part } = across[x]!;
      const at = (y * widthPx + x) * 4;
      for (let channel = 0; channel < 3; channel++) {
        const light = of[channel]!;
        const above = light[upper + first]! * (1 - part) + light[upper + next]! * part;
        const below = light[lower + first]! * (1 - part) + light[lower + next]! * part;
        const paper = Math.max(24, above * (1 - down.part) + below * down.part);
        const value = (data[at + channel]! * PAPER) / paper;
        out[at + channel] = ((value - BLACK) * 255) / (PAPER - BLACK);
      }
      out[at + 3] = 255;
    }
  }
  return { widthPx, heightPx, data: out };
};
