import { idSchema, LONGEST_TAKE_US, usSchema } from '../../lesson/take';
import type { TimeRange } from '../../time/ranges';
import { formatClock, formatSpoken } from '../../time/us';

/** A stretch of a take's recorded time, as edits about one name it. */
export const ENDS = { takeId: idSchema, startUs: usSchema, endUs: usSchema };

export const runsForward = (edit: TimeRange): boolean => edit.endUs > edit.startUs;
export const FORWARD = 'a stretch ends after it starts';

/** A stretch in words: `4 s at 1:12`; one that was to last as long as the take did: `all from 1:12 on`. */
export const stretchInWords = ({ startUs, endUs }: TimeRange): string => {
  if (endUs < LONGEST_TAKE_US)
    return `${formatSpoken(Math.max(1_000_000, endUs - startUs))} at ${formatClock(startUs)}`;
  return startUs === 0 ? 'all of a take' : `all from ${formatClock(startUs)} on`;
};
