import type { Asking, Openness } from '@under-chalk/core/hand-out/may-watch';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import type { GrantStore } from './grant-store';
import type { StoredHandOut } from './hand-out-store';
import { hashOf } from './ids';
import type { Person, StudentPageStore } from './student-page-store';

/** What the address of a film leads to. */
export interface Found {
  readonly handOut: StoredHandOut;
  readonly openness: Openness;
  /** The student whose address it is; null: it is the link itself. */
  readonly person: Person | null;
}

/** What a student's address leads to is held for as long as a class opens it, ms. Whatever changes it forgets it. */
const HELD_MS = 1_000;
const MOST_HELD = 2_000;

/** A student, as whoever decides knows them. */
export const askingOf = (person: Person | null): Asking =>
  person === null
    ? { is: 'link' }
    : { is: 'student', studentId: person.studentId, classIds: person.classIds };

/** Finds what the address of a film leads to: a link, or a student's own address of it. It decides nothing. */
export class TokenFinder {
  readonly #db: Knex;
  readonly #grants: GrantStore;
  readonly #pages: StudentPageStore;
  readonly #held = new LRUCache<string, Found>({ max: MOST_HELD, ttl: HELD_MS });

  constructor(db: Knex, grants: GrantStore, pages: StudentPageStore) {
    this.#db = db;
    this.#grants = grants;
    this.#pages = pages;
  }

  /** Forgets what addresses lead to: something has been changed. */
  forget(): void {
    this.#held.clear();
  }

  /** Undefined where an address leads nowhere: also to a lesson in the bin. */
  async find(token: string): Promise<Found | undefined> {
    const held = this.#held.get(token);
    if (held) return held;
    const found = await this.#look(token);
    if (found) this.#held.set(token, found);
    return found;
  }

  async #look(token: string): Promise<Found | undefined> {
    const link = await this.#handOut({ token_hash: hashOf(token) });
    const pass = link ? undefined : await this.#pages.byPass(token);
    const handOut = link ?? (pass && (await this.#handOut({ 'hand_outs.id': pass.handOutId })));
    if (!handOut) return undefined;
    const { id, taken_back_at, from_at, until_at } = handOut;
    const grants = (await this.#grants.of([id])).get(id)!;
    return {
      handOut,
      openness: { takenBackAt: taken_back_at, fromAt: from_at, untilAt: until_at, grants },
      person: pass?.person ?? null,
    };
  }

  #handOut(which: object): Promise<StoredHandOut | undefined> {
    return this.#db('hand_outs')
      .join('lessons', 'lessons.id', 'hand_outs.lesson_id')
      .where(which)
      .whereNull('lessons.removed_at')
      .first('hand_outs.*');
  }
}
