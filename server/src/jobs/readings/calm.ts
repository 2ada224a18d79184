import { setTimeout as wait } from 'node:timers/promises';
import type { TakeStore } from '../../store/take-store';

const LOOK_MS = 2_000;
/** Whoever pauses for longer has it begin all the same, ms. */
const MOST_MS = 600_000;

/** Waits for the moment in which nothing is recorded: what has time would take it from who is speaking. */
export type Calm = (signal: AbortSignal) => Promise<void>;

/** @returns waits until no take is being recorded, or the signal ends it; never rejects for the signal */
export const calmOf =
  (takes: TakeStore): Calm =>
  async (signal) => {
    const until = Date.now() + MOST_MS;
    while (Date.now() < until && (await takes.inState('recording')).length > 0) {
      await wait(LOOK_MS, undefined, { signal, ref: false }).catch(() => undefined);
      if (signal.aborted) return;
    }
  };
