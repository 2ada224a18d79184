import { readdirSync, readFileSync } from 'node:fs';

/** Ticks of a second in which Linux tells what a process has used (USER_HZ; 100 on every machine it runs on). */
const TICKS = 100;

/** What a process and its children have had so far. */
export interface Work {
  /** Time of the processors, in all threads, ms. */
  readonly usedMs: number;
  /** Time for which threads were ready to run and got no processor, ms: summed over all of them. */
  readonly waitedMs: number;
  /** A thread waits for a processor or for a disk at this moment. */
  readonly waits: boolean;
}

/** Fields of `/proc/[pid]/stat` behind the name, which may hold spaces and brackets itself. */
const statFields = (path: string): string[] => {
  const told = readFileSync(path, 'latin1');
  return told.slice(told.lastIndexOf(')') + 2).split(' ');
};

const childrenOf = (pid: number): number[] => {
  try {
    const told = readFileSync(`/proc/${pid}/task/${pid}/children`, 'latin1');
    return told.split(' ').filter(Boolean).map(Number);
  } catch {
    return [];
  }
};

const threadsOf = (pid: number): { waitedMs: number; waits: boolean } => {
  let [waitedMs, waits] = [0, false];
  for (const thread of readdirSync(`/proc/${pid}/task`)) {
    try {
      const path = `/proc/${pid}/task/${thread}`;
      const state = statFields(`${path}/stat`)[0];
      waits ||= state === 'R' || state === 'D';
      waitedMs += Number(readFileSync(`${path}/schedstat`, 'latin1').split(' ')[1]) / 1e6 || 0;
    } catch {
      // The thread ended meanwhile, or this kernel doesn't count what threads wait.
    }
  }
  return { waitedMs, waits };
};

/**
 * What a process and its children have had so far. Null where nobody tells (other systems than Linux), or when it is over.
 *
 * Source: proc(5), `/proc/[pid]/stat`, fields 3, 14 and 15; Documentation/scheduler/sched-stats.rst, `/proc/<pid>/schedstat`.
 */
export const workOf = (pid: number): Work | null => {
  try {
    const fields = statFields(`/proc/${pid}/stat`);
    const ticks = Number(fields[11]) + Number(fields[12]);
    if (!Number.isFinite(ticks)) return null;
    const all = { usedMs: (ticks * 1000) / TICKS, ...threadsOf(pid) };
    for (const child of childrenOf(pid)) {
      const work = workOf(child);
      if (!work) continue;
      all.usedMs += work.usedMs;
      all.waitedMs += work.waitedMs;
      all.waits ||= work.waits;
    }
    return all;
  } catch {
    return null;
  }
};

/**
 * Time that counts against a process, of a while on the wall's clock, ms: what it worked, and what it stood still. What it
 * waited for a processor or a disk doesn't count. It stood still no longer than whoever watches it was at work: when the
 * whole machine stands still, so does every process.
 *
 * @param passedMs the while
 * @param lookMs how long it should have been
 * @param before null if unknown
 * @param after null if unknown
 */
export const counted = (
  passedMs: number,
  lookMs: number,
  before: Work | null,
  after: Work | null,
): number => {
  if (!before || !after) return Math.min(passedMs, lookMs);
  const worked = Math.min(passedMs, Math.max(0, after.usedMs - before.usedMs));
  const waited = Math.max(0, after.waitedMs - before.waitedMs);
  const stood = after.waits ? 0 : Math.max(0, passedMs - worked - waited);
  return worked + Math.min(stood, lookMs);
};

/** How often it is looked at how far a process has come, ms. */
const LOOK_MS = { least: 50, most: 500 };

/** How long a process may take, in time that counts. */
export interface WorkLimits {
  /** In all, ms. */
  readonly deadlineMs?: number | undefined;
  /** Between two signs of life, ms. */
  readonly quietMs?: number | undefined;
  /** Told of time that doesn't count, ms. */
  readonly forgiven?: ((ms: number) => void) | undefined;
}

/** Watches how long a process takes. A busy machine is not held against it; working without end and standing still are. */
export interface WorkClock {
  /** It gave a sign of life. */
  heard(): void;
  /** Time that had counted when it was looked at last, ms. */
  countedMs(): number;
  /** It is over, or nobody waits for it any more. */
  stop(): void;
}

/** @param late called once, with the limit that was reached */
export const watchWork = (
  pid: number | undefined,
  { deadlineMs = Infinity, quietMs = Infinity, forgiven }: WorkLimits,
  late: (limit: 'deadline' | 'quiet') => void,
): WorkClock => {
  const shortest = Math.min(deadlineMs, quietMs);
  const lookMs = Math.min(LOOK_MS.most, Math.max(LOOK_MS.least, shortest / 8));
  const look = () => (pid === undefined ? null : workOf(pid));
  let [at, before] = [performance.now(), look()];
  let [all, quiet] = [0, 0];
  const timer = setInterval(() => {
    const [now, after] = [performance.now(), look()];
    const counts = counted(now - at, lookMs, before, after);
    all += counts;
    quiet += counts;
    forgiven?.(now - at - counts);
    [at, before] = [now, after];
    const limit = all >= deadlineMs ? 'deadline' : quiet >= quietMs ? 'quiet' : null;
    if (limit === null) return;
    clearInterval(timer);
    late(limit);
  }, lookMs);
  if (shortest === Infinity) clearInterval(timer);
  return {
    heard() {
      quiet = 0;
    },
    countedMs: () => all,
    stop: () => clearInterval(timer),
  };
};
