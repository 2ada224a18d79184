import { availableParallelism } from 'node:os';
import { turns } from './turns';

/** What somebody waits for at a page, and what is done ahead of anybody asking; of each, the more urgent first. */
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
 * Bounds what a server works on beside its requests by the machine's cores, whoever asks: each job is a process or a thread that keeps
 * a core busy for seconds or minutes. Pieces of films have turns of their own (`film-maker`), and single pictures (`still-maker`), so
 * that neither waits for what is long.
 *
 * A job holds one slot, and may never wait for another job while it does.
 */
export class HeavyWork {
  readonly #take: Readonly<Record<Lane, ReturnType<typeof turns<Purpose>>>>;

  /** @param cores what is waited for takes one more than there are, and what is ahead one fewer */
  constructor(cores = availableParallelism()) {
    this.#take = {
      waited: turns<Purpose>(cores + 1, placeOf),
      ahead: turns<Purpose>(Math.max(1, cores - 1), placeOf),
    };
  }

  /**
   * Does a job in its turn.
   *
   * @throws the signal's reason, also while it waits
   */
  async run<T>(purpose: Purpose, job: () => Promise<T>, signal?: AbortSignal): Promise<T> {
    const giveBack = await this.#take[laneOf(purpose)](purpose, signal);
    try {
      return await job();
    } finally {
      giveBack();
    }
  }
}

/** Of this process: its cores are the machine's. */
export const heavyWork = new HeavyWork();
