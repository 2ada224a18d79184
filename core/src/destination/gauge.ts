import { fromSeconds, type Us } from '../time/us';
import type { Destination } from './destination';

/** Where attention usually ends, unless the teacher has set it otherwise. */
export const ATTENTION_US = fromSeconds(300);

export type GaugeState = 'empty' | 'too-short' | 'fits' | 'past-attention' | 'too-long';

/** What the length gauge shows; the same value wherever it is drawn. */
export interface Gauge {
  readonly state: GaugeState;
  readonly usedUs: Us;
  /** Null: the place has no limit. */
  readonly leftUs: Us | null;
  /** What the whole line stands for. */
  readonly scaleUs: Us;
  /** Marks along the line, as fractions of it. Null where there is none, or it lies off the line. */
  readonly used: number;
  readonly attention: number | null;
  readonly limit: number | null;
  readonly least: number | null;
}

/**
 * Measures a length against a place's limits.
 *
 * @param usedUs how long the film is, µs
 * @param destination where it goes
 * @param attentionUs where attention usually ends, µs
 */
export const gauge = (
  usedUs: Us,
  destination: Destination,
  attentionUs: Us = ATTENTION_US,
): Gauge => {
  const { leastUs, mostUs } = destination;
  const scaleUs = Math.max(mostUs === null ? attentionUs * 1.5 : mostUs * 1.1, usedUs);
  const mark = (us: Us) => (us > 0 && us <= scaleUs ? us / scaleUs : null);
  let state: GaugeState = 'fits';
  if (usedUs <= 0) state = 'empty';
  else if (mostUs !== null && usedUs > mostUs) state = 'too-long';
  else if (usedUs < leastUs) state = 'too-short';
  else if (usedUs > attentionUs) state = 'past-attention';
  return {
    state,
    usedUs,
    leftUs: mostUs === null ? null : mostUs - usedUs,
    scaleUs,
    used: Math.min(1, Math.max(0, usedUs) / scaleUs),
    attention: mark(attentionUs),
    limit: mostUs === null ? null : mark(mostUs),
    least: mark(leastUs),
  };
};
