import type { Destination } from '../destination/destination';
import { formatClock, formatSpoken, fromSeconds, type Us } from '../time/us';

/**
 * How near the place's limit is.
 * - `near`: a minute left, said calmly
 * - `close`: fifteen seconds left, said clearly
 * - `over`: past it; recording goes on, nothing is thrown away
 */
export type LimitStage = 'far' | 'near' | 'close' | 'over';

export interface Limit {
  readonly stage: LimitStage;
  /** Null: the place has no limit. Negative: past it. */
  readonly leftUs: Us | null;
  /** What to say; empty while it is far. */
  readonly words: string;
}

/** Seconds before the limit at which a screen reader says so. */
const SAID_AT_S = [10, 30, 60];

/** What is said of the limit without being looked at: at a minute, 30 and 10 seconds, and when it is passed. */
export const limitSaid = ({ leftUs }: Pick<Limit, 'leftUs'>): string => {
  if (leftUs === null) return '';
  if (leftUs <= 0) return 'The limit is passed. It goes on recording.';
  const seconds = SAID_AT_S.find((most) => leftUs <= fromSeconds(most));
  return seconds === undefined
    ? ''
    : `${seconds === 60 ? 'One minute' : `${seconds} seconds`} left.`;
};

/**
 * What to say about the length of a film that is growing.
 *
 * @param usedUs what the lesson's film comes to with what is being recorded, µs
 */
export const limitOf = (usedUs: Us, place: Destination): Limit => {
  if (place.mostUs === null) return { stage: 'far', leftUs: null, words: '' };
  const leftUs = place.mostUs - usedUs;
  if (leftUs <= 0) {
    return {
      stage: 'over',
      leftUs,
      words: `${formatSpoken(-leftUs)} over the ${formatSpoken(place.mostUs)} of “${place.name}”. It goes on recording: afterwards cut a stretch in Tidy, or send it somewhere longer in Plan.`,
    };
  }
  if (leftUs <= fromSeconds(15)) {
    return {
      stage: 'close',
      leftUs,
      words: `${formatClock(leftUs + 999_999)} left: come to the end.`,
    };
  }
  if (leftUs <= fromSeconds(60)) {
    return { stage: 'near', leftUs, words: 'Less than a minute left.' };
  }
  return { stage: 'far', leftUs, words: '' };
};
