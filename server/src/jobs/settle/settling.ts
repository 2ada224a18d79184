import { FfmpegTimeout, type Limits } from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';

/** What all parts of settling a take need to know. */
export interface Settling {
  readonly signal: AbortSignal;
  /** Footage of others, and not a recording of ours: it can be anything, and it gives way. */
  readonly foreign: boolean;
  /** Where the take begins by the timestamps of what came in, µs. 0 for a recording: they are recorded time. */
  readonly originUs: Us;
  /**
   * Limits of one step, within what the whole may still take.
   *
   * @throws FfmpegTimeout when nothing is left
   */
  readonly limits: (step: Limits) => Limits;
  /** A name for something half made. */
  readonly draft: () => string;
}

/** What the smallest file may take in all, ms: one brought in, and one of our own. */
const LEAST_MS = { foreign: 14_000, own: 60_000 };
/** Bytes that are made ready in a millisecond at least: what is slower is a trap. */
const BYTES_PER_MS = 10;

/** Divides the time that settling a file may take among its steps. @param bytes of the file */
export const budgetOf = (bytes: number, foreign: boolean): ((step: Limits) => Limits) => {
  const all = (foreign ? LEAST_MS.foreign : LEAST_MS.own) + bytes / BYTES_PER_MS;
  const until = Date.now() + all;
  return (step) => {
    const left = until - Date.now();
    if (left <= 0) throw new FfmpegTimeout('settling', `it took ${Math.round(all / 1000)} s`);
    return { ...step, deadlineMs: Math.min(left, step.deadlineMs ?? left) };
  };
};
