import type { Asking, Availability } from '@under-chalk/core/share-link/may-watch';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import type { GrantStore } from './grant-store';
import type { StoredShareLink } from './share-link-store';
import type { ClassPageStore, ClassVisitor } from './class-page-store';
import { hashOf } from './ids';
import { availabilityOf } from './availability';
import type { Person, StudentPageStore } from './student-page-store';

/** What the address of a film leads to. */
export interface Found {
  readonly shareLink: StoredShareLink;
  readonly availability: Availability;
  /** On whose page the address is; null: it is the link itself. */
  readonly visitor: Visitor | null;
}

/** What a student's address leads to is held for as long as a class opens it, ms. Whatever changes it forgets it. */
const HELD_MS = 1_000;
const MOST_HELD = 2_000;

/** Whoever comes by a page of films: a student by their own, or somebody by a class's. */
export type Visitor = Person | ClassVisitor;

/** A visitor, as whoever decides knows them. */
export const askingOf = (visitor: Visitor | null): Asking => visitor ?? { is: 'link' };

/** Finds what the address of a film leads to: a link, or a student's own address of it. It decides nothing. */
export class TokenFinder {
  readonly #db: Knex;
  readonly #grants: GrantStore;
  readonly #students: StudentPageStore;
  readonly #classes: ClassPageStore;
  readonly #held = new LRUCache<string, Found>({ max: MOST_HELD, ttl: HELD_MS });

  constructor(
    db: Knex,
    grants: GrantStore,
    { studentPages, classPages }: { studentPages: StudentPageStore; classPages: ClassPageStore },
  ) {
    this.#db = db;
    this.#grants = grants;
    this.#students = studentPages;
    this.#classes = classPages;
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
    const link = await this.#shareLink({ token_hash: hashOf(token) });
    const pass = link ? undefined : await this.#pass(token);
    const shareLink =
      link ?? (pass && (await this.#shareLink({ 'share_links.id': pass.shareLinkId })));
    if (!shareLink) return undefined;
    const grants = (await this.#grants.of([shareLink.id])).get(shareLink.id)!;
    return {
      shareLink,
      availability: availabilityOf(shareLink, grants),
      visitor: pass?.visitor ?? null,
    };
  }

  async #pass(token: string): Promise<{ visitor: Visitor; shareLinkId: string } | undefined> {
    const own = await this.#students.byPass(token);
    return own
      ? { visitor: own.person, shareLinkId: own.shareLinkId }
      : this.#classes.byPass(token);
  }

  /** Whose page an address leads to; undefined where there is none (any more). */
  async visitorWith(key: string): Promise<Visitor | undefined> {
    return (await this.#students.personWith(key)) ?? this.#classes.visitorWith(key);
  }

  #shareLink(which: object): Promise<StoredShareLink | undefined> {
    return this.#db('share_links')
      .join('lessons', 'lessons.id', 'share_links.lesson_id')
      .where(which)
      .whereNull('lessons.removed_at')
      .first('share_links.*');
  }
}
