import type { Context } from 'koa';
import { LRUCache } from 'lru-cache';
import type { Front } from '../config';
import { callerOf } from './security';
import type { Student } from './who';

const DAY_MS = 86_400_000;
/** Number of (address, thing) pairs that are tracked at a time. */
const MOST_COUNTED = 2_000;

/**
 * Limits the number of anonymous visitors per address, per thing and day, so that one stranger can't use up all places (every new browser
 * profile counts as a visitor). The limit leaves room for a school behind one router.
 */
export class StrangerShare {
  readonly #most: number;
  readonly #visitors: LRUCache<string, Set<string>>;

  /** @param most visitors per address and thing */
  constructor(most: number, ttl = DAY_MS) {
    this.#most = most;
    this.#visitors = new LRUCache({ max: MOST_COUNTED, ttl });
  }

  /** Whether a visitor is admitted. A visitor who was admitted before always is. */
  admits(address: string, thing: string, visitor: string): boolean {
    const key = `${address} ${thing}`;
    const visitors = this.#visitors.get(key) ?? new Set();
    if (visitors.has(visitor)) return true;
    if (visitors.size >= this.#most) return false;
    this.#visitors.set(key, visitors.add(visitor));
    return true;
  }
}

/**
 * Whether a request may add something: students with a page of their own always, others within their address's share.
 *
 * @param most anonymous visitors per address and thing
 */
export const sharedAmongStrangers = (front: Front, most: number) => {
  const share = new StrangerShare(most);
  return (ctx: Context, { person }: Student, thing: string, visitor: string): boolean =>
    person !== null || share.admits(callerOf(ctx, front), thing, visitor);
};
