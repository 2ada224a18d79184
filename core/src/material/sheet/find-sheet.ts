import { areSheet, WHOLE_PICTURE, type Corners } from './corners';

/** A smaller part of a picture than this is no sheet, and a larger one is all of it. */
const LEAST = 0.15;
const MOST = 0.97;
/** How much of the sheet that its corners make has to be light. */
const FILLED = 0.72;

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

/** The largest part of what is light that hangs together: its pixels. */
const largest = (isLight: Uint8Array, widthPx: number): number[] => {
  const seen = new Uint8Array(isLight.length);
  let best: number[] = [];
  for (let from = 0; from < isLight.length; from++) {
    if (seen[from] || !isLight[from]) continue;
    const part = [from];
    seen[from] = 1;
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
        if (next < 0 || next >= isLight.length || seen[next] || !isLight[next]) continue;
        seen[next] = 1;
        part.push(next);
      }
    }
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
  const part = largest(
    luma.map((value) => (value > parting ? 1 : 0)),
    widthPx,
  );
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
