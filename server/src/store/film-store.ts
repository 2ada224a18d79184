import type { FilmRow } from '@under-chalk/core/contract/api';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { PictureSize } from '@under-chalk/core/place/size-name';
import type { Knex } from 'knex';
import { newId, newToken } from './ids';

export interface StoredFilm {
  readonly id: string;
  readonly lesson_id: string;
  readonly revision: number;
  readonly size: PictureSize;
  readonly state: FilmRow['state'];
  readonly problem: string | null;
  readonly problem_detail: string | null;
  readonly bytes: number;
  readonly film_us: number;
  readonly file_name: string;
  readonly created_at: string;
}

export interface StoredHandOut {
  readonly id: string;
  readonly lesson_id: string;
  readonly film_id: string;
  readonly token: string;
  readonly created_at: string;
}

/** Films made of lessons, and the links under which they are handed out. */
export class FilmStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** The film of a lesson at a revision and size: the one there is, unless it was given up, or a new one. */
  async want(
    film: Pick<StoredFilm, 'lesson_id' | 'revision' | 'size' | 'film_us' | 'file_name'>,
  ): Promise<StoredFilm> {
    const { lesson_id, revision, size } = film;
    return this.#db.transaction(async (trx) => {
      const present = await trx('films')
        .where({ lesson_id, revision, size })
        .whereIn('state', ['waiting', 'making', 'done'])
        .first();
      if (present) return present as StoredFilm;
      const id = newId();
      await trx('films').insert({
        ...film,
        id,
        state: 'waiting',
        created_at: new Date().toISOString(),
      });
      return trx('films').where({ id }).first() as Promise<StoredFilm>;
    });
  }

  /** @throws TellableError `not-found` */
  async get(id: string): Promise<StoredFilm> {
    const row = await this.#db('films').where({ id }).first();
    if (!row) throw new TellableError('not-found', `film ${id}`);
    return row;
  }

  async ofLesson(lessonId: string): Promise<StoredFilm[]> {
    return this.#db('films').where({ lesson_id: lessonId }).orderBy('rowid', 'desc').select('*');
  }

  /** The film that has waited longest. */
  async nextWaiting(): Promise<StoredFilm | undefined> {
    return this.#db('films').where({ state: 'waiting' }).orderBy('rowid').first();
  }

  async update(
    id: string,
    change: Partial<Pick<StoredFilm, 'state' | 'problem' | 'problem_detail' | 'bytes'>>,
  ): Promise<void> {
    await this.#db('films').where({ id }).update(change);
  }

  /** Puts films that a stopped server left half made back into the queue. */
  async requeue(): Promise<void> {
    await this.#db('films').where({ state: 'making' }).update({ state: 'waiting' });
  }

  async handOut(lessonId: string, filmId: string): Promise<StoredHandOut> {
    const handOut = {
      id: newId(),
      lesson_id: lessonId,
      film_id: filmId,
      token: newToken(),
      created_at: new Date().toISOString(),
    };
    await this.#db('hand_outs').insert(handOut);
    return handOut;
  }

  async handOutsOf(lessonId: string): Promise<StoredHandOut[]> {
    return this.#db('hand_outs')
      .where({ lesson_id: lessonId })
      .whereNull('taken_back_at')
      .orderBy('rowid', 'desc')
      .select('*');
  }

  /** @throws TellableError `not-found`, also for a link that was taken away */
  async byToken(token: string): Promise<StoredHandOut> {
    const row = await this.#db('hand_outs').where({ token }).whereNull('taken_back_at').first();
    if (!row) throw new TellableError('not-found', 'hand-out');
    return row;
  }

  /** @throws TellableError `not-found` */
  async takeBack(id: string): Promise<void> {
    const changed = await this.#db('hand_outs')
      .where({ id })
      .whereNull('taken_back_at')
      .update({ taken_back_at: new Date().toISOString() });
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
  }
}
