/** Samples a second of what is cleaned. */
export const CLEANING_RATE = 48_000;
