/** Samples that each is foretold from. */
const ORDER = 32;
/** Samples on either side of a gap that are needed. */
export const GAP_CONTEXT = 768;
/** Less than this is left to be foretold: it is known. */
const LEAST_POWER = 1e-12;
/** So much is added where equations have no single answer. */
const NOISE = 1e-14;

/**
 * How a signal goes on from its last samples: coefficients of its linear prediction, the first 1 (Burg, "Maximum entropy
 * spectral analysis", 1967), from two parts of it.
 */
const predictionOf = (known: readonly Float32Array[]): Float64Array | null => {
  const forward = known.map((part) => Float64Array.from(part));
  const backward = known.map((part) => Float64Array.from(part));
  let found = Float64Array.of(1);
  for (let order = 1; order <= ORDER; order++) {
    let [both, all] = [0, 0];
    forward.forEach((ahead, part) => {
      const behind = backward[part]!;
      for (let at = order; at < ahead.length; at++) {
        both += ahead[at]! * behind[at - 1]!;
        all += ahead[at]! ** 2 + behind[at - 1]! ** 2;
      }
    });
    if (all < LEAST_POWER) return order === 1 ? null : found;
    const mirrored = (-2 * both) / all;
    forward.forEach((ahead, part) => {
      const behind = backward[part]!;
      for (let at = ahead.length - 1; at >= order; at--) {
        const [was, before] = [ahead[at]!, behind[at - 1]!];
        ahead[at] = was + mirrored * before;
        behind[at] = before + mirrored * was;
      }
    });
    const next = new Float64Array(order + 1);
    for (let at = 0; at <= order; at++)
      next[at] = (found[at] ?? 0) + mirrored * (found[order - at] ?? 0);
    found = next;
  }
  return found;
};

/** Solves `matrix · x = right` for a symmetric, positive matrix by Cholesky; both are used up. */
const solve = (matrix: Float64Array[], right: Float64Array): void => {
  const { length } = right;
  for (let row = 0; row < length; row++) {
    for (let column = 0; column <= row; column++) {
      let sum = matrix[row]![column]!;
      // Only what is near the diagonal is there.
      for (let at = Math.max(0, row - ORDER); at < column; at++)
        sum -= matrix[row]![at]! * matrix[column]![at]!;
      matrix[row]![column] = row === column ? Math.sqrt(sum) : sum / matrix[column]![column]!;
    }
    for (let at = Math.max(0, row - ORDER); at < row; at++)
      right[row]! -= matrix[row]![at]! * right[at]!;
    right[row]! /= matrix[row]![row]!;
  }
  for (let row = length - 1; row >= 0; row--) {
    for (let at = row + 1; at < Math.min(length, row + ORDER + 1); at++)
      right[row]! -= matrix[at]![row]! * right[at]!;
    right[row]! /= matrix[row]![row]!;
  }
};

/**
 * Fills a gap with what goes best with the samples on both sides of it: least squares by linear prediction (Janssen, Veldhuis
 * and Vries, "Adaptive interpolation of discrete-time signals that can be modeled as autoregressive processes", 1986).
 *
 * @param samples changed between `from` and `to`; {@link GAP_CONTEXT} are there on either side
 */
export const fillGap = (samples: Float32Array, from: number, to: number): void => {
  const known = [
    samples.subarray(from - GAP_CONTEXT, from),
    samples.subarray(to, to + GAP_CONTEXT),
  ];
  const prediction = predictionOf(known);
  const length = to - from;
  if (!prediction) return void samples.fill(0, from, to);
  const correlation = Float64Array.from({ length: ORDER + 1 }, (_, lag) => {
    let sum = 0;
    for (let at = lag; at < prediction.length; at++) sum += prediction[at]! * prediction[at - lag]!;
    return lag === 0 ? sum * (1 + NOISE) : sum;
  });
  const matrix = Array.from({ length }, (_, row) =>
    Float64Array.from({ length: row + 1 }, (_unused, column) => correlation[row - column] ?? 0),
  );
  const right = Float64Array.from({ length }, (_, row) => {
    let sum = 0;
    for (let lag = -ORDER; lag <= ORDER; lag++) {
      const at = from + row + lag;
      if (at < from || at >= to) sum -= correlation[Math.abs(lag)]! * samples[at]!;
    }
    return sum;
  });
  solve(matrix, right);
  // Louder than all round it, it was foretold badly: a straight line is no worse.
  const most = known.reduce(
    (peak, part) => part.reduce((a, b) => Math.max(a, Math.abs(b)), peak),
    0,
  );
  const fits = right.every((sample) => Math.abs(sample) <= 1.2 * most);
  const [before, after] = [samples[from - 1]!, samples[to]!];
  for (let at = 0; at < length; at++)
    samples[from + at] = fits ? right[at]! : before + ((after - before) * (at + 1)) / (length + 1);
};
