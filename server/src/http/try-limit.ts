import { TellableError } from '@under-chalk/core/errors/errors';

/** Callers remembered at a time: those who tried longest ago are forgotten first. */
const MOST_CALLERS = 10_000;

/**
 * Counts tries by caller; more than `most` in `windowMs` and the caller has to wait. A try is counted before
 * it is known how it comes out, so that many at the same time don't slip through.
 */
export class TryLimit {
  readonly #most: number;
  readonly #windowMs: number;
  readonly #tries = new Map<string, number[]>();

  constructor(most: number, windowMs: number) {
    this.#most = most;
    this.#windowMs = windowMs;
  }

  /** @throws TellableError `too-many-tries`; such a try is not counted */
  count(caller: string, now = Date.now()): void {
    const recent = (this.#tries.get(caller) ?? []).filter((at) => at > now - this.#windowMs);
    this.#tries.delete(caller);
    if (recent.length >= this.#most) {
      this.#tries.set(caller, recent);
      throw new TellableError('too-many-tries');
    }
    this.#tries.set(caller, [...recent, now]);
    const [oldest] = this.#tries.keys();
    if (this.#tries.size > MOST_CALLERS && oldest !== undefined) this.#tries.delete(oldest);
  }

  /** The tries of a caller who turned out to be right don't count. */
  forget(caller: string): void {
    this.#tries.delete(caller);
  }
}
