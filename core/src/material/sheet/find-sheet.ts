import { areSheet, WHOLE_PICTURE, type Corners } from './corners';

/** A smaller part of a picture than this is no sheet, and a larger one is all of it. */
const LEAST = 0.15;
const MOST = 0.97;
/** How much of the sheet that its corners make has to be of it. */
const FILLED = 0.8;

/** The brightness that parts the light from the dark best (N. Otsu, IEEE Trans. SMC 9, 1979). */
const partingOf = (luma: Uint8Array): number => {
  const counts = new Float64Array(256);
  for (const value of luma) counts[value]!++;
  const total = luma.length;
  const all = counts.reduce((sum, count, value) => sum + count * value, 0);
  let [below, sum, best, parting] = [0, 0, -1, 127];
  for (let value = 0; value < 256; value++) {
    below += counts[value]!;
    sum += counts[value]! * value;
    if (below === 0 || below === total) continue;
    const apart = sum / below - (all - sum) / (total - below);
    const between = below * (total - below) * apart * apart;
    if (between > best) [best, parting] = [between, value];
  }
  return parting;
};

/** What hangs together with some pixels and is like them. @param from marked in `seen` already */
const grown = (
  from: readonly number[],
  isLike: Uint8Array,
  seen: Uint8Array,
  widthPx: number,
): number[] => {
  const part = [...from];
  for (let at = 0; at < part.length; at++) {
    const pixel = part[at]!;
    const column = pixel % widthPx;
    const beside = [
      pixel - widthPx,
      pixel + widthPx,
      column > 0 ? pixel - 1 : -1,
      column < widthPx - 1 ? pixel + 1 : -1,
    ];
    for (const next of beside) {
      if (next < 0 || next >= isLike.length || seen[next] || !isLike[next]) continue;
      seen[next] = 1;
      part.push(next);
    }
  }
  return part;
};

/** What is dark and reaches the edge of the picture: what a sheet lies on, and nothing that is written on it. */
const aroundOf = (isLight: Uint8Array, widthPx: number, heightPx: number): Uint8Array => {
  const isDark = isLight.map((light) => 1 - light);
  const around = new Uint8Array(isLight.length);
  const edge: number[] = [];
  for (let pixel = 0; pixel < isLight.length; pixel++) {
    const [x, y] = [pixel % widthPx, Math.floor(pixel / widthPx)];
    const atEdge = x === 0 || y === 0 || x === widthPx - 1 || y === heightPx - 1;
    if (!atEdge || !isDark[pixel]) continue;
    around[pixel] = 1;
    edge.push(pixel);
  }
  grown(edge, isDark, around, widthPx);
  return around;
};

/** The largest part that hangs together: its pixels. */
const largest = (isLike: Uint8Array, widthPx: number): number[] => {
  const seen = new Uint8Array(isLike.length);
  let best: number[] = [];
  for (let from = 0; from < isLike.length; from++) {
    if (seen[from] || !isLike[from]) continue;
    seen[from] = 1;
    const part = grown([from], isLike, seen, widthPx);
    if (part.length > best.length) best = part;
  }
  return best;
};

/**
 * Finds a light sheet on something darker. A guess: whoever is asked can move its corners.
 *
 * @param luma brightness of a small picture, row by row
 * @returns its corners; of the whole picture where none is to be seen
 */
export const findSheet = (luma: Uint8Array, widthPx: number, heightPx: number): Corners => {
  const parting = partingOf(luma);
  const isLight = luma.map((value) => (value > parting ? 1 : 0));
  // With all that is written on it, frames too.
  const isSheet = aroundOf(isLight, widthPx, heightPx).map((around) => 1 - around);
  const part = largest(isSheet, widthPx);
  if (part.length < LEAST * luma.length || part.length > MOST * luma.length) return WHOLE_PICTURE;
  const farthest = (along: (x: number, y: number) => number) => {
    let [most, best] = [-Infinity, 0];
    for (const pixel of part) {
      const far = along(pixel % widthPx, Math.floor(pixel / widthPx));
      if (far > most) [most, best] = [far, pixel];
    }
    return {
      x: (best % widthPx) / (widthPx - 1),
      y: Math.floor(best / widthPx) / (heightPx - 1),
    };
  };
  const corners: Corners = [
    farthest((x, y) => -x - y),
    farthest((x, y) => x - y),
    farthest((x, y) => x + y),
    farthest((x, y) => y - x),
  ];
  if (!areSheet(corners)) return WHOLE_PICTURE;
  // Twice the area, by the shoelace formula.
  const double = corners.reduce((sum, { x, y }, index) => {
    const next = corners[(index + 1) % 4]!;
    return sum + x * next.y - next.x * y;
  }, 0);
  const area = (double / 2) * luma.length;
  return part.length >= FILLED * area ? corners : WHOLE_PICTURE;
};
