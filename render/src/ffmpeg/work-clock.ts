import { readFileSync } from 'node:fs';

/** Ticks of a second in which Linux tells what a process has used (USER_HZ; 100 on every machine it runs on). */
const TICKS = 100;

/**
 * Time of the processors that a process has used so far, in all of its threads, ms. Null where nobody tells
 * (other systems than Linux), or when it is over.
 *
 * Source: proc(5), `/proc/[pid]/stat`, fields 14 and 15.
 */
export const usedMs = (pid: number): number | null => {
  try {
    const told = readFileSync(`/proc/${pid}/stat`, 'latin1');
    // The name may hold spaces and brackets: the fields after it begin behind the last one.
    const fields = told.slice(told.lastIndexOf(')') + 2).split(' ');
    const ticks = Number(fields[11]) + Number(fields[12]);
    return Number.isFinite(ticks) ? (ticks * 1000) / TICKS : null;
  } catch {
    return null;
  }
};

/** What is less than this share of a processor stands still. */
const STILL = 0.01;
/** A process that is at work and gets little of a busy machine may take this many times longer. */
const PATIENCE = 6;

/**
 * Time that counts against a process, of a while that has passed on the wall's clock, ms: all of it where it
 * had a processor or stood still, and less where it was at work and had to wait for others.
 *
 * @param used time of the processors that it had in this while, ms; null if unknown
 */
export const counted = (passedMs: number, used: number | null): number =>
  used === null || used < passedMs * STILL
    ? passedMs
    : Math.min(passedMs, Math.max(used, passedMs / PATIENCE));

/** How often it is looked at how far a process has come, ms. */
const LOOK_MS = { least: 50, most: 500 };

/**
 * Calls back when a process has had as long as it may. A busy machine is not held against it; standing still is.
 *
 * @param forgiven told of time that doesn't count, ms
 * @returns to be called when it is over
 */
export const whenLate = (
  pid: number | undefined,
  deadlineMs: number,
  late: () => void,
  forgiven: (ms: number) => void = () => undefined,
): (() => void) => {
  let at = performance.now();
  let used = 0;
  let left = deadlineMs;
  const look = () => {
    const now = performance.now();
    const total = pid === undefined ? null : usedMs(pid);
    const charge = counted(now - at, total === null ? null : total - used);
    left -= charge;
    forgiven(now - at - charge);
    [at, used] = [now, total ?? used];
    if (left > 0) return;
    clearInterval(timer);
    late();
  };
  const timer = setInterval(look, Math.min(LOOK_MS.most, Math.max(LOOK_MS.least, deadlineMs / 8)));
  return () => clearInterval(timer);
};
