import {
  destinationSchema,
  FREE_DESTINATION_ID,
  type Destination,
  type Destinations,
} from '@under-chalk/core/destination/destination';
import { AppError } from '@under-chalk/core/errors/errors';
import { ATTENTION_US } from '@under-chalk/core/destination/gauge';
import type { Knex } from 'knex';

const ATTENTION = 'attention-us';

/** Where films go, as the teacher has set it. */
export class DestinationStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  async all(): Promise<Destinations> {
    const rows = await this.#db('destinations').orderBy(['rank', 'id']).pluck('place');
    const attention = await this.#db('settings').where({ name: ATTENTION }).first('value');
    return {
      destinations: rows.map((place: string) => destinationSchema.parse(JSON.parse(place))),
      attentionUs: attention ? Number(attention.value) : ATTENTION_US,
    };
  }

  /** Adds a destination, above the one without limits, or changes the one with its id. */
  async set(place: Destination): Promise<Destinations> {
    await this.#db.transaction(async (trx) => {
      const text = JSON.stringify(place);
      if (await trx('destinations').where({ id: place.id }).update({ place: text })) return;
      const last = await trx('destinations')
        .whereNot({ id: FREE_DESTINATION_ID })
        .max('rank as rank')
        .first();
      const rank = (last?.rank ?? 0) + 1;
      await trx('destinations').where('rank', '>=', rank).increment('rank', 1);
      await trx('destinations').insert({ id: place.id, place: text, rank });
    });
    return this.all();
  }

  /** @throws AppError `bad-request` for the one without limits: lessons fall back to it */
  async remove(id: string): Promise<Destinations> {
    if (id === FREE_DESTINATION_ID) throw new AppError('bad-request', `remove ${id}`);
    await this.#db('destinations').where({ id }).delete();
    return this.all();
  }

  async setAttention(attentionUs: number): Promise<Destinations> {
    await this.#db('settings')
      .insert({ name: ATTENTION, value: String(attentionUs) })
      .onConflict('name')
      .merge();
    return this.all();
  }
}
