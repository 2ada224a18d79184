import { LRUCache } from 'lru-cache';

const DAY_MS = 86_400_000;
/** Addresses that are counted at a time, for each thing apart. */
const MOST_COUNTED = 2_000;

/**
 * Counts those without a name whom one address brings to one thing in a day, so that one stranger can't take all the places that there
 * are: each new browser is another visitor. A whole school behind one router has room in it.
 */
export class StrangerShare {
  readonly #most: number;
  readonly #visitors: LRUCache<string, Set<string>>;

  /** @param most visitors of one address */
  constructor(most: number, ttl = DAY_MS) {
    this.#most = most;
    this.#visitors = new LRUCache({ max: MOST_COUNTED, ttl });
  }

  /** Whether a visitor is let in; one who was let in before always is. */
  admits(address: string, thing: string, visitor: string): boolean {
    const key = `${address} ${thing}`;
    const visitors = this.#visitors.get(key) ?? new Set();
    if (visitors.has(visitor)) return true;
    if (visitors.size >= this.#most) return false;
    this.#visitors.set(key, visitors.add(visitor));
    return true;
  }
}
