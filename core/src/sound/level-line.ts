import { FLOOR_DBFS } from './level';
import type { Us } from '../time/us';

/** Length of one step of a level line, µs. */
export const LEVEL_STEP_US = 20_000;

/**
 * The loudness of a take's voice over time: RMS of each 20 ms in dBFS. Kept and sent as one byte a
 * step (dBFS + 100, so 0 is silence and 100 full scale): two hours are 360 kB.
 */
export type LevelLine = Uint8Array;

/** RMS in dBFS → the byte of a level line. */
export const toLevelByte = (rmsDbfs: number): number =>
  Math.max(0, Math.min(100, Math.round(rmsDbfs - FLOOR_DBFS)));

/**
 * The bars of a wave drawing: the loudest step in each of `count` equal parts of a stretch, as heights
 * 0 to 1 (0 at −60 dBFS and below).
 */
export const barsOf = (line: LevelLine, startUs: Us, endUs: Us, count: number): number[] => {
  const first = startUs / LEVEL_STEP_US;
  const perBar = (endUs - startUs) / LEVEL_STEP_US / count;
  return Array.from({ length: count }, (_, bar) => {
    const from = Math.floor(first + bar * perBar);
    const to = Math.max(from + 1, Math.ceil(first + (bar + 1) * perBar));
    let most = 0;
    for (let at = Math.max(0, from); at < Math.min(line.length, to); at++) {
      most = Math.max(most, line[at]!);
    }
    return Math.max(0, (most - 40) / 60);
  });
};
