import type { TimeRange } from '../../time/ranges';

/** A word and how well it sounded. */
interface Scored extends TimeRange {
  readonly score: number;
}

/** The middle one of some numbers; 0 of none. */
export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
};

/** A word shorter or longer than this is hardly said like that, µs. */
const SHORTEST_US = 50_000;
const LONGEST_US = 1_800_000;

/**
 * How sure each of some words is, 0 to 100: by how well it sounds like what it should be, against how well the others of the same
 * voice and microphone do (in median absolute deviations); and by whether anybody says a word so shortly or so slowly.
 */
export const surenessOf = (words: readonly Scored[]): ((word: Scored) => number) => {
  const middle = median(words.map(({ score }) => score));
  const spread = Math.max(
    1e-9,
    1.4826 * median(words.map(({ score }) => Math.abs(score - middle))),
  );
  return ({ score, startUs, endUs }) => {
    const off = (score - middle) / spread;
    const likely = 1 / (1 + Math.exp(-1.4 * (off + 3)));
    const lasts = endUs - startUs;
    const odd = lasts < SHORTEST_US || lasts > LONGEST_US;
    return Math.round(100 * likely * (odd ? 0.4 : 1));
  };
};

/** Median score by frame at which clarity is one half, and the slope around it. */
const UNCLEAR_SCORE = -34_000;
const SCORE_STEP = 1_500;
/** A voice that speaks fills at least this share of the stretches where something is heard. */
const LEAST_SPOKEN = 0.5;

/**
 * How clearly a recording as a whole could be heard, 0 to 1. {@link surenessOf} compares words only with each other, and finds nothing
 * wrong where all are. Measured with pocketsphinx and its English model: -25,000 to -29,000 for a person and four synthesized voices (14
 * to 29 % of the words wrong), below -37,000 with noise at 20 dB or less, in other languages and backwards (72 % wrong or more).
 *
 * @param spokenUs length of the stretches that were listened to
 */
export const clarityOf = (words: readonly Scored[], spokenUs: number): number => {
  if (words.length === 0 || spokenUs <= 0) return 0;
  const score = median(words.map((word) => word.score));
  const filled = words.reduce((sum, { startUs, endUs }) => sum + endUs - startUs, 0) / spokenUs;
  const clear = 1 / (1 + Math.exp((UNCLEAR_SCORE - score) / SCORE_STEP));
  return clear * Math.min(1, filled / LEAST_SPOKEN);
};
