import { FfmpegTimeout, type Limits } from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';

/** What all parts of processing a take need to know. */
export interface Ingest {
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
  /** Told how much of the stream has been made, 0 to 1. */
  readonly tell: (share: number) => void;
  /** How long the stream is, µs, where that is known before it is made. */
  readonly lengthUs: Us | null;
  /** A name for something half made. */
  readonly draft: () => string;
}

/** What the smallest file may take in all, ms: one brought in, and one of our own. */
const LEAST_MS = { foreign: 14_000, own: 60_000 };
/** Bytes that are made ready in a millisecond at least: what is slower is a trap. */
const BYTES_PER_MS = 10;
/** What a packet may take on top, ms: with nothing in it, and for each of its pixels. Slow machines encode at this speed. */
const PACKET_MS = 2;
const PIXEL_MS = 0.0001;

/** The time that processing a file may take, divided among its steps. */
export interface Budget {
  readonly limits: Ingest['limits'];
  /** What is really in the file is known: so many packets, of so many pixels each. */
  readonly allow: (packets: number, pixels: number) => void;
}

/** @param bytes of the file */
export const budgetOf = (bytes: number, foreign: boolean): Budget => {
  let all = (foreign ? LEAST_MS.foreign : LEAST_MS.own) + bytes / BYTES_PER_MS;
  // Later by what its steps had to wait for others.
  let began = Date.now();
  const forgiven = (ms: number) => {
    began += ms;
  };
  return {
    limits(step) {
      const left = began + all - Date.now();
      if (left <= 0) throw new FfmpegTimeout('processing', `it took ${Math.round(all / 1000)} s`);
      return { ...step, deadlineMs: Math.min(left, step.deadlineMs ?? left), forgiven };
    },
    allow(packets, pixels) {
      all += packets * (PACKET_MS + pixels * PIXEL_MS);
    },
  };
};
