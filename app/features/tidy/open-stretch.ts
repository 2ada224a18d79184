import type { TimeRange } from '@under-chalk/core/time/ranges';

/** A stretch of a take that is open for fine work. */
export interface OpenStretch extends TimeRange {
  readonly takeId: string;
  /** The place in the film at which it was opened. */
  readonly placementId: string;
}
