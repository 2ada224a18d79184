import type { Log } from '../log';

/** Shortest time between two rounds, ms. */
const LEAST_MS = 1_000;
/** Time until the next round after rounds that failed, ms: the first entry after the first failure. */
const AFTER_FAILURE_MS = [10_000, 60_000, 300_000];

/**
 * Does rounds of some work, one at a time: when it is told to, and when the last one said that more is due. Told to in the middle of one,
 * it does another right after.
 */
export class Rounds {
  readonly #round: () => Promise<number | null>;
  readonly #what: string;
  readonly #log: Log;
  #running: Promise<void> | null = null;
  #again = false;
  #closed = false;
  #timer: NodeJS.Timeout | null = null;
  #timerAt = 0;
  #failures = 0;

  /**
   * @param round gives when something is due next, ms since 1970; null: nothing is. Where it fails, it is done again after a while
   * @param what can't be done, for the log
   */
  constructor(round: () => Promise<number | null>, what: string, log: Log) {
    this.#round = round;
    this.#what = what;
    this.#log = log;
  }

  /** It is being ended: what is left of a round waits for the next start. */
  get closed(): boolean {
    return this.#closed;
  }

  begin(): void {
    if (this.#closed) return;
    if (this.#running) {
      this.#again = true;
      return;
    }
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
    this.#running = this.#round()
      .then((next) => {
        this.#failures = 0;
        return next;
      })
      .catch((error: unknown) => {
        this.#log.error(this.#what, error);
        return Date.now() + (AFTER_FAILURE_MS[this.#failures++] ?? AFTER_FAILURE_MS.at(-1)!);
      })
      .then((next) => {
        this.#running = null;
        if (this.#again) {
          this.#again = false;
          this.begin();
        } else if (next !== null) this.beginAt(next);
      });
  }

  /** At some time, ms since 1970, if none is meant to begin before. One that is under way looks again itself when it ends. */
  beginAt(at: number): void {
    if (this.#closed) return;
    if (this.#running) this.#again = true;
    else if (this.#timer === null || at < this.#timerAt) {
      if (this.#timer) clearTimeout(this.#timer);
      this.#timer = setTimeout(() => this.begin(), Math.max(LEAST_MS, at - Date.now()));
      this.#timer.unref();
      this.#timerAt = at;
    }
  }

  async close(): Promise<void> {
    this.#closed = true;
    if (this.#timer) clearTimeout(this.#timer);
    await this.#running;
  }
}
