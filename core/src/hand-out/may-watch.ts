/** When a hand-out may be watched. Times are ISO 8601, in UTC. */
export interface Openness {
  /** Since when it is taken away; null: it isn't. */
  readonly takenBackAt: string | null;
  /** From when on; null: from the beginning. */
  readonly fromAt: string | null;
  /** Until when; null: with no end. */
  readonly untilAt: string | null;
}

export type MayWatch = 'open' | 'not-yet' | 'over' | 'taken-back';

/**
 * Whether a hand-out may be watched at a time. It opens at the very moment that it says, and closes at it.
 *
 * @param nowMs since 1970
 */
export const mayWatch = ({ takenBackAt, fromAt, untilAt }: Openness, nowMs: number): MayWatch => {
  if (takenBackAt !== null) return 'taken-back';
  if (untilAt !== null && nowMs >= Date.parse(untilAt)) return 'over';
  if (fromAt !== null && nowMs < Date.parse(fromAt)) return 'not-yet';
  return 'open';
};
