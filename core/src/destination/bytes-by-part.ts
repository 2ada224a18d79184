/** A piece of a film. */
export interface PieceThere {
  readonly frames: number;
  readonly bytes: number;
}

/** Fewer tell nothing of how unlike they are. */
const LEAST_PIECES = 5;
/** How many standard errors there are in 95 of 100 cases. */
const ERRORS_95 = 1.96;

/**
 * How many bytes all pieces of something will take, by those that are there, taken as a sample of all.
 * W. G. Cochran, *Sampling Techniques*, 3rd edition, 1977, 6.4: the ratio estimate and its standard error, with the
 * correction for a population that is finite.
 *
 * @param all how many pieces there are in all, and how many frames they have
 * @returns `within`: by what share it may be wrong, in 95 of 100 cases; null where too few are there to tell
 */
export const bytesByPart = (
  there: readonly PieceThere[],
  all: { readonly pieces: number; readonly frames: number },
): { bytes: number; within: number } | null => {
  const frames = there.reduce((sum, piece) => sum + piece.frames, 0);
  const bytes = there.reduce((sum, piece) => sum + piece.bytes, 0);
  if (frames === 0 || all.frames === 0) return null;
  if (there.length >= all.pieces) return { bytes, within: 0 };
  if (there.length < LEAST_PIECES || bytes === 0) return null;
  const ratio = bytes / frames;
  const squares = there.reduce((sum, piece) => sum + (piece.bytes - ratio * piece.frames) ** 2, 0);
  const variance = squares / (there.length - 1);
  const isLeft = 1 - there.length / all.pieces;
  const error = (Math.sqrt((isLeft * variance) / there.length) * there.length) / frames;
  return { bytes: ratio * all.frames, within: (ERRORS_95 * error) / ratio };
};

/** Which of so many pieces is the next, so that those before are spread evenly over all of them: halves, quarters, eighths. */
export const spreadOver = (pieces: number): number[] => {
  const bits = Math.ceil(Math.log2(Math.max(1, pieces)));
  return Array.from({ length: 2 ** bits }, (_, count) => {
    let place = 0;
    for (let bit = 0; bit < bits; bit++) if (count & (1 << bit)) place |= 1 << (bits - 1 - bit);
    return place;
  }).filter((place) => place < pieces);
};
