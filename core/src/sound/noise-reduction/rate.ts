/** Samples a second of what has its noise reduced. */
export const NOISE_REDUCTION_RATE = 48_000;
