import type { TimeRange } from '@under-chalk/core/time/ranges';

/** A stretch of a take, at a place in the film. */
export interface OpenStretch extends TimeRange {
  readonly takeId: string;
  /** The place in the film at which it was opened. */
  readonly placementId: string;
}

/** What is chosen for fine work: a phrase, or a run of phrases round the one that was opened. */
export interface ChosenStretch extends OpenStretch {
  /** The phrase that was opened; what can be done stands with it. */
  readonly opened: TimeRange;
}

/** How long a stretch was recorded for, in figures: `4.2`, seconds. */
export const secondsOf = ({ startUs, endUs }: TimeRange): string =>
  ((endUs - startUs) / 1e6).toFixed(1);

/** The run from a stretch to a phrase, whichever comes first: from the phrase that was opened, or from all that is chosen. */
export const reaching = (
  chosen: ChosenStretch,
  from: TimeRange,
  { startUs, endUs }: TimeRange,
): ChosenStretch => ({
  ...chosen,
  startUs: Math.min(from.startUs, startUs),
  endUs: Math.max(from.endUs, endUs),
});
