import type { ClassPage } from '@under-chalk/core/contract/student-pages';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import { hashOf, newToken } from './ids';
import type { LinkSeal } from './link-seal';
import { passesOn } from './passes';

interface StoredPage {
  readonly class_id: string;
  readonly token_hash: string;
  readonly token_sealed: string;
  readonly revoked_at: string | null;
}

/** Whoever comes by the page of a class: nobody by name. */
export interface ClassVisitor {
  readonly is: 'class';
  readonly classId: string;
  readonly name: string;
  /** Of the page's address: another one when it is renewed. */
  readonly pageHash: string;
  readonly pin: null;
}

/** Pages of classes: one address that can stand in a course's site once and for all. There are none until one is asked for. */
export class ClassPageStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  #newAddress() {
    const { hash, sealed } = this.#seal.keep(newToken());
    const created_at = new Date().toISOString();
    return { token_hash: hash, token_sealed: sealed, created_at, revoked_at: null };
  }

  /** @throws AppError `not-found` for a class that isn't there */
  async #page(classId: string): Promise<ClassPage> {
    const row: StoredPage | undefined = await this.#db('class_pages')
      .join('classes', 'classes.id', 'class_pages.class_id')
      .where({ class_id: classId, removed_at: null })
      .first('class_pages.*');
    if (!row) throw new AppError('not-found', `the page of class ${classId}`);
    return {
      ...{ classId, away: row.revoked_at !== null },
      key: this.#seal.opened(row.token_sealed),
    };
  }

  /** The page of a class, which is given one if there is none. @throws AppError `not-found` */
  async page(classId: string): Promise<ClassPage> {
    if (await this.#db('classes').where({ id: classId, removed_at: null }).first())
      await this.#db('class_pages')
        .insert({ class_id: classId, ...this.#newAddress() })
        .onConflict('class_id')
        .ignore();
    return this.#page(classId);
  }

  /** Another address: what the old one led to is gone. @throws AppError `not-found` */
  async renew(classId: string): Promise<ClassPage> {
    await this.#db('passes').where({ class_id: classId }).delete();
    await this.#db('class_pages').where({ class_id: classId }).update(this.#newAddress());
    return this.#page(classId);
  }

  /** Takes a page away, or gives it back under its address. @throws AppError `not-found` */
  async setOpen(classId: string, open: boolean): Promise<ClassPage> {
    const revoked_at = open ? null : new Date().toISOString();
    await this.#db('class_pages').where({ class_id: classId }).update({ revoked_at });
    return this.#page(classId);
  }

  #visitors() {
    return this.#db('class_pages')
      .join('classes', 'classes.id', 'class_pages.class_id')
      .where({ revoked_at: null, removed_at: null });
  }

  #toVisitor(row: (StoredPage & { name: string }) | undefined): ClassVisitor | undefined {
    if (!row) return undefined;
    const { class_id: classId, name, token_hash: pageHash } = row;
    return { is: 'class', classId, name, pageHash, pin: null };
  }

  /** Whose page an address leads to; undefined where there is none (any more). */
  async visitorWith(key: string): Promise<ClassVisitor | undefined> {
    return this.#toVisitor(
      await this.#visitors()
        .where({ token_hash: hashOf(key) })
        .first('class_pages.*', 'classes.name'),
    );
  }

  /** By which class's page the address of a film comes, and to which link; undefined where there is none (any more). */
  async byPass(token: string): Promise<{ visitor: ClassVisitor; shareLinkId: string } | undefined> {
    const row: (StoredPage & { name: string; share_link_id: string }) | undefined =
      await this.#visitors()
        .join('passes', 'passes.class_id', 'class_pages.class_id')
        .where({ 'passes.token_hash': hashOf(token) })
        .first('class_pages.*', 'classes.name', 'passes.share_link_id');
    const visitor = this.#toVisitor(row);
    return visitor && row ? { visitor, shareLinkId: row.share_link_id } : undefined;
  }

  /** Addresses of films on the page ({@link passesOn}). */
  passes({ classId, pageHash }: ClassVisitor, shareLinkIds: readonly string[]): Promise<string[]> {
    return passesOn(this.#db, this.#seal, { class_id: classId }, pageHash, shareLinkIds);
  }
}
