/**
 * A time of the page's own (an event's, ms) on the common clock of all sources: µs since 1970 by the page's monotonic
 * clock.
 */
export const commonUs = (pageMs: number): number =>
  Math.round((performance.timeOrigin + pageMs) * 1000);

/** This moment on it. */
export const nowUs = (): number => commonUs(performance.now());
