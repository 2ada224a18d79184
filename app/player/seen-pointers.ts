import type { Take } from '@under-chalk/core/lesson/take';
import { pathOfFound, screenOf, type PointerState } from '@under-chalk/core/pointer/found';
import type { PointerPath } from '@under-chalk/core/pointer/path';
import { call } from '../data/client';
import { LiveValue } from '../data/live-value';

/** How often it is asked how far the server is with looking, and again after a failure, ms. */
const AGAIN_MS = 2_500;

/** How it stands with the pointer of each take, by its identifier. */
export type PointerStates = ReadonlyMap<string, PointerState>;

/** Fetches where pointers were seen in captured screens, once the server has found them. */
export class SeenPointers {
  readonly states = new LiveValue<PointerStates>(new Map());
  /** What each was fetched of: a take that was made ready anew has other pictures. */
  readonly #fetched = new Map<string, string>();
  readonly #paths = new Map<string, PointerPath>();
  readonly #timers = new Set<ReturnType<typeof setTimeout>>();
  readonly #ask: (takeId: string) => Promise<PointerState>;
  readonly #onFound: () => void;
  #closed = false;

  /** @param onFound called when another pointer has come */
  constructor(
    onFound: () => void,
    ask = (takeId: string) => call('pointer', { params: { takeId } }),
  ) {
    this.#onFound = onFound;
    this.#ask = ask;
  }

  /** Fetches those of some takes, as far as they aren't there. */
  fetch(takes: Iterable<Take>): void {
    for (const take of takes) {
      const digest = screenOf(take)?.digest;
      if (digest === undefined || this.#fetched.get(take.id) === digest) continue;
      this.#fetched.set(take.id, digest);
      void this.#fetchOne(take.id, digest);
    }
  }

  /** What was seen in a take; null where nothing was, or it isn't there (yet). */
  readonly of = (takeId: string): PointerPath | null => this.#paths.get(takeId) ?? null;

  close(): void {
    this.#closed = true;
    this.#timers.forEach(clearTimeout);
  }

  async #fetchOne(takeId: string, digest: string): Promise<void> {
    const state = await this.#ask(takeId).catch((error: unknown) => {
      console.error('how it stands with the pointer can’t be fetched', error);
      return null;
    });
    if (this.#closed || this.#fetched.get(takeId) !== digest) return;
    if (state) this.states.set(new Map([...this.states.view(), [takeId, state]]));
    if (state?.is === 'found') {
      this.#paths.set(takeId, pathOfFound(state.found));
      this.#onFound();
    } else if (state?.is !== 'none') {
      const timer = setTimeout(() => {
        this.#timers.delete(timer);
        void this.#fetchOne(takeId, digest);
      }, AGAIN_MS);
      this.#timers.add(timer);
    }
  }
}
