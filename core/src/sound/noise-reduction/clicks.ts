import { fillGap, GAP_CONTEXT } from './fill-gap';
import { NOISE_REDUCTION_RATE } from './rate';

/** A millisecond, samples. */
const STEP = NOISE_REDUCTION_RATE / 1_000;
/** Over so many of them what is usual near a place is told; clicks that come in less than that again are a voice. */
const NEAR = 24;
/** Samples on either side that are needed to tell of one whether it belongs to a click. */
export const CLICK_CONTEXT = (NEAR + 4) * STEP + GAP_CONTEXT;
/** The first step that can be told of. */
const FIRST = Math.ceil(GAP_CONTEXT / STEP) + 6;
/** Longest that a click lasts, ms. */
const MOST_MS = 4;
/** So many times as loud as what is usual near it, a click stands out. */
const STANDS_OUT = 8;
/** Quieter ones are left, amplitude. */
const LEAST = 0.004;
/** So many samples before it and after it are taken for part of it. */
const EDGE = 10;

/** What of some samples is high: what goes by slowly is taken out. A click is there, and a vowel mostly not. */
const highOf = (samples: Float32Array): Float32Array => {
  const high = new Float32Array(samples.length);
  for (let at = 2; at < samples.length; at++) {
    high[at] = (samples[at]! - 2 * samples[at - 1]! + samples[at - 2]!) / 4;
  }
  return high;
};

/**
 * Takes out clicks, and fills in what goes with what is round them: what is high, far louder than what is near it, over in some milliseconds and by itself. The ends of words
 * last longer, and the pulses of a voice come again at once.
 *
 * @param samples at {@link NOISE_REDUCTION_RATE}, changed; those within {@link CLICK_CONTEXT} of its ends only tell of the others
 */
export const softenClicks = (samples: Float32Array): void => {
  const high = highOf(samples);
  const steps = Math.floor(samples.length / STEP);
  const peaks = Float32Array.from({ length: steps }, (_, step) => {
    let peak = 0;
    for (let at = step * STEP; at < (step + 1) * STEP; at++)
      peak = Math.max(peak, Math.abs(high[at]!));
    return peak;
  });
  const near = new Float32Array(2 * NEAR);
  for (let step = FIRST; step < steps - FIRST; step++) {
    const peak = peaks[step]!;
    if (peak < LEAST || peak < peaks[step - 1]! || peak < peaks[step + 1]!) continue;
    // All that is louder than a quarter of it and touches it.
    let [first, end] = [step, step + 1];
    while (step - first < MOST_MS && peaks[first - 1]! > peak / 4) first--;
    while (end - step <= MOST_MS && peaks[end]! > peak / 4) end++;
    if (end - first > MOST_MS) continue;
    let many = 0;
    for (let at = step - NEAR; at < step + NEAR; at++)
      if (at < first - 1 || at > end) near[many++] = peaks[at]!;
    const others = near.subarray(0, many).sort();
    const [usual, loudest] = [others[Math.floor(many / 2)]!, others[many - 1]!];
    if (peak < usual * STANDS_OUT || loudest > peak / 3) continue;
    const standing = Math.max(usual * 1.5, peak / 16);
    let [from, to] = [(first - 1) * STEP, (end + 1) * STEP];
    while (Math.abs(high[from]!) < standing) from++;
    while (Math.abs(high[to - 1]!) < standing) to--;
    fillGap(samples, from - EDGE, to + EDGE);
  }
};
