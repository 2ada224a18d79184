import { TellableError } from '@under-chalk/core/errors/errors';
import {
  keptArrangementsSchema,
  MOST_KEPT_ARRANGEMENTS,
  type KeptArrangement,
} from '@under-chalk/core/lesson/kept-arrangement';
import type { Knex } from 'knex';

/** The row of the settings that they stand in. */
const NAME = 'arrangements';

/** The teacher's own arrangements. */
export class ArrangementStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  async all(): Promise<readonly KeptArrangement[]> {
    return read(this.#db);
  }

  /** Keeps one, or changes the one with its id. @throws TellableError `too-many-arrangements` */
  keep(kept: KeptArrangement): Promise<readonly KeptArrangement[]> {
    return this.#change((before) => {
      const isThere = before.some(({ id }) => id === kept.id);
      const after = isThere
        ? before.map((one) => (one.id === kept.id ? kept : one))
        : [...before, kept];
      if (after.length > MOST_KEPT_ARRANGEMENTS) throw new TellableError('too-many-arrangements');
      return after;
    });
  }

  forget(id: string): Promise<readonly KeptArrangement[]> {
    return this.#change((before) => before.filter((one) => one.id !== id));
  }

  #change(
    by: (before: readonly KeptArrangement[]) => readonly KeptArrangement[],
  ): Promise<readonly KeptArrangement[]> {
    return this.#db.transaction(async (trx) => {
      const after = by(await read(trx));
      await trx('settings')
        .insert({ name: NAME, value: JSON.stringify(after) })
        .onConflict('name')
        .merge();
      return after;
    });
  }
}

const read = async (db: Knex): Promise<readonly KeptArrangement[]> => {
  const row = await db('settings').where({ name: NAME }).first<{ value: string } | undefined>();
  return row ? keptArrangementsSchema.parse(JSON.parse(row.value)) : [];
};
