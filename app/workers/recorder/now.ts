/** The common clock of all sources: µs since 1970 by the page's monotonic clock. */
export const nowUs = (): number => Math.round((performance.timeOrigin + performance.now()) * 1000);
