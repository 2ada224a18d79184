import { TellableError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import { hashOf, newId, newToken } from './ids';
import type { LinkSeal } from './link-seal';

export interface StoredHandOut {
  readonly id: string;
  readonly lesson_id: string;
  readonly film_id: string;
  readonly token_sealed: string;
  readonly created_at: string;
}

/** The links under which films are handed out. */
export class HandOutStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  async add(lessonId: string, filmId: string): Promise<StoredHandOut> {
    const { hash, sealed } = this.#seal.keep(newToken());
    const handOut = {
      id: newId(),
      lesson_id: lessonId,
      film_id: filmId,
      token_sealed: sealed,
      created_at: new Date().toISOString(),
    };
    await this.#db('hand_outs').insert({ ...handOut, token_hash: hash });
    return handOut;
  }

  /** The unguessable part of a link, for its teacher; null where the key that it was kept with is gone. */
  tokenOf({ token_sealed }: StoredHandOut): string | null {
    return this.#seal.tokenOf(token_sealed);
  }

  /** @throws TellableError `not-found`, also for a link that was taken away */
  async get(id: string): Promise<StoredHandOut> {
    const row = await this.#db('hand_outs').where({ id }).whereNull('taken_back_at').first();
    if (!row) throw new TellableError('not-found', `hand-out ${id}`);
    return row;
  }

  async ofLesson(lessonId: string): Promise<StoredHandOut[]> {
    return this.#db('hand_outs')
      .where({ lesson_id: lessonId })
      .whereNull('taken_back_at')
      .orderBy('rowid', 'desc')
      .select('*');
  }

  /** @throws TellableError `not-found`, also for a link that was taken away and for a lesson in the bin */
  async byToken(token: string): Promise<StoredHandOut> {
    const row = await this.#db('hand_outs')
      .join('lessons', 'lessons.id', 'hand_outs.lesson_id')
      .where({ token_hash: hashOf(token) })
      .whereNull('hand_outs.taken_back_at')
      .whereNull('lessons.removed_at')
      .first('hand_outs.*');
    if (!row) throw new TellableError('not-found', 'hand-out');
    return row;
  }

  /** Takes a link away. @throws TellableError `not-found` */
  async takeBack(id: string): Promise<void> {
    const changed = await this.#db('hand_outs')
      .where({ id })
      .whereNull('taken_back_at')
      .update({ taken_back_at: new Date().toISOString() });
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
  }

  /**
   * Lets a link that was taken away be used again, under the same address.
   *
   * @throws TellableError `not-found`, also when its film is in the bin
   */
  async giveAgain(id: string): Promise<void> {
    const changed = await this.#db('hand_outs')
      .where({ id })
      .whereIn('film_id', this.#db('films').whereNull('removed_at').select('id'))
      .update({ taken_back_at: null });
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
  }
}
