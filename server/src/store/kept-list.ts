import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';

/** What is kept, and how much of it. */
interface Kind<T> {
  /** The row of the settings that it stands in. */
  readonly name: string;
  readonly schema: { parse(value: unknown): readonly T[] };
  readonly most: number;
  /** Said when there is no room for another. */
  readonly full: ErrorCode;
}

/** A short list of the teacher's own, kept for all lessons: one row of the settings. */
export class KeptList<T extends { readonly id: string }> {
  readonly #db: Knex;
  readonly #kind: Kind<T>;

  constructor(db: Knex, kind: Kind<T>) {
    this.#db = db;
    this.#kind = kind;
  }

  all(): Promise<readonly T[]> {
    return this.#read(this.#db);
  }

  /** Keeps one, or changes the one with its id. @throws AppError as the list's kind says */
  keep(kept: T): Promise<readonly T[]> {
    return this.#change((before) => {
      const isThere = before.some(({ id }) => id === kept.id);
      const after = isThere
        ? before.map((one) => (one.id === kept.id ? kept : one))
        : [...before, kept];
      if (after.length > this.#kind.most) throw new AppError(this.#kind.full);
      return after;
    });
  }

  forget(id: string): Promise<readonly T[]> {
    return this.#change((before) => before.filter((one) => one.id !== id));
  }

  #change(by: (before: readonly T[]) => readonly T[]): Promise<readonly T[]> {
    return this.#db.transaction(async (trx) => {
      const after = by(await this.#read(trx));
      await trx('settings')
        .insert({ name: this.#kind.name, value: JSON.stringify(after) })
        .onConflict('name')
        .merge();
      return after;
    });
  }

  async #read(db: Knex): Promise<readonly T[]> {
    const { name, schema } = this.#kind;
    const row = await db('settings').where({ name }).first<{ value: string } | undefined>();
    return row ? schema.parse(JSON.parse(row.value)) : [];
  }
}
