import { availableParallelism } from 'node:os';
import { turns } from './turns';

/** Kinds of jobs that somebody waits for, and kinds that run ahead of demand; most urgent first. */
const ORDER = {
  waited: ['recording', 'sound', 'captions', 'submission', 'import'],
  ahead: ['reading', 'size', 'piece'],
} as const;
type Lane = keyof typeof ORDER;
export type Purpose = (typeof ORDER)[Lane][number];

const laneOf = (purpose: Purpose): Lane =>
  (ORDER.ahead as readonly Purpose[]).includes(purpose) ? 'ahead' : 'waited';
const placeOf = (purpose: Purpose): number =>
  (ORDER[laneOf(purpose)] as readonly Purpose[]).indexOf(purpose);

/**
 * Limits the number of concurrent background jobs by the machine's cores. A job is a process or a thread that keeps a core busy for
 * seconds or minutes. Film pieces (`film-maker`) and stills (`still-maker`) have limits of their own, so that they don't wait for long jobs.
 *
 * A job must not wait for another job of its lane, or both wait forever.
 */
export class HeavyWork {
  readonly #take: Readonly<Record<Lane, ReturnType<typeof turns<Purpose>>>>;

  /** @param cores the first lane has one slot more than this, the second one fewer, but at least one */
  constructor(cores = availableParallelism()) {
    this.#take = {
      waited: turns<Purpose>(cores + 1, placeOf),
      ahead: turns<Purpose>(Math.max(1, cores - 1), placeOf),
    };
  }

  /** Runs a job when it has a slot. @throws the job's error; the signal's reason while it waits */
  async run<T>(purpose: Purpose, job: () => Promise<T>, signal?: AbortSignal): Promise<T> {
    const giveBack = await this.#take[laneOf(purpose)](purpose, signal);
    try {
      // Between the turn being given and this line, the caller may have given up.
      signal?.throwIfAborted();
      return await job();
    } finally {
      giveBack();
    }
  }
}

/** Shared by the whole process. Worker threads have their own, but run inside a job. */
export const heavyWork = new HeavyWork();
