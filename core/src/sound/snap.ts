import { frameToUs, nearestFrame } from '../time/frames';
import type { Us } from '../time/us';
import { LEVEL_STEP_US, type LevelLine } from './level-line';

/** How far from where a finger lets go it is looked for where it is quiet, µs. */
const REACH_US = 80_000;
/** It has to be so much quieter there than where it was let go, dB. */
const QUIETER_DB = 8;

/**
 * The place to cut near a recorded time: where it is quietest close by, if it is a good deal quieter there, and else
 * there; on the frame nearest to it.
 */
export const snapped = (line: LevelLine | null, us: Us): Us => {
  const here = Math.floor(us / LEVEL_STEP_US);
  const reach = REACH_US / LEVEL_STEP_US;
  let best = here;
  if (line) {
    for (let step = Math.max(0, here - reach); step <= here + reach; step++) {
      const nearer = Math.abs(step - here) < Math.abs(best - here);
      const level = line[step] ?? 0;
      const least = line[best] ?? 0;
      if (level < least || (level === least && nearer)) best = step;
    }
    if ((line[here] ?? 0) - (line[best] ?? 0) < QUIETER_DB) best = here;
  }
  const at = best === here ? us : (best + 0.5) * LEVEL_STEP_US;
  return frameToUs(Math.max(0, nearestFrame(at)));
};
