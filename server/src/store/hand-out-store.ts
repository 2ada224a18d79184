import { mayWatch, type MayWatch } from '@under-chalk/core/hand-out/may-watch';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { GivenFilm } from '@under-chalk/core/contract/hand-outs';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import * as z from 'zod';
import type { StoredFilm } from './film-store';
import { hashOf, newId, newToken } from './ids';
import type { LinkSeal } from './link-seal';

export interface StoredHandOut {
  readonly id: string;
  readonly lesson_id: string;
  /** What is given now. */
  readonly film_id: string;
  readonly token_sealed: string;
  readonly created_at: string;
  readonly taken_back_at: string | null;
  readonly from_at: string | null;
  readonly until_at: string | null;
  /** 1: students may save the film; 0: only watch it. */
  readonly saves: number;
  /** Ids of materials that students may save, JSON. */
  readonly materials: string;
}

/** What a student's link leads to is held for as long as a class opens it, ms. Whatever changes it forgets it. */
const HELD_MS = 1_000;
const MOST_HELD = 500;

/** Whoever watches a film when another is given in its place can go on with it for so long, ms. */
const GOES_ON_MS = 6 * 3_600_000;

/** The materials that a hand-out gives along. */
export const materialsGiven = ({ materials }: StoredHandOut): string[] =>
  z.array(z.string()).parse(JSON.parse(materials));

const now = () => new Date().toISOString();

/** Whether a hand-out may be watched at this moment. */
export const openNow = ({ taken_back_at, from_at, until_at }: StoredHandOut): MayWatch =>
  mayWatch({ takenBackAt: taken_back_at, fromAt: from_at, untilAt: until_at }, Date.now());

/** The links under which films are handed out, and what has been given under each. */
export class HandOutStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;
  readonly #byToken = new LRUCache<string, StoredHandOut>({ max: MOST_HELD, ttl: HELD_MS });
  readonly #films = new LRUCache<string, StoredFilm>({ max: MOST_HELD, ttl: HELD_MS });

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  /** Forgets what links lead to: something has been changed that is kept elsewhere. */
  changed(): void {
    this.#byToken.clear();
    this.#films.clear();
  }

  async add(lessonId: string, filmId: string): Promise<StoredHandOut> {
    const { hash, sealed } = this.#seal.keep(newToken());
    const id = newId();
    return this.#db.transaction(async (trx) => {
      await trx('hand_outs').insert({
        ...{ id, lesson_id: lessonId, film_id: filmId },
        ...{ token_sealed: sealed, token_hash: hash, created_at: now() },
      });
      await this.#given(trx, id, filmId);
      return trx('hand_outs').where({ id }).first();
    });
  }

  async #given(trx: Knex, handOutId: string, filmId: string): Promise<void> {
    const row = { id: newId(), hand_out_id: handOutId, film_id: filmId, given_at: now() };
    await trx('hand_out_films').insert(row);
  }

  /** Gives another film under a link. @throws TellableError `not-found` */
  async give(id: string, filmId: string): Promise<StoredHandOut> {
    return this.#db
      .transaction(async (trx) => {
        const before = await trx('hand_outs').where({ id }).whereNull('taken_back_at').first();
        if (!before) throw new TellableError('not-found', `hand-out ${id}`);
        if (before.film_id === filmId) return before as StoredHandOut;
        await trx('hand_outs').where({ id }).update({ film_id: filmId });
        await this.#given(trx, id, filmId);
        return { ...before, film_id: filmId } as StoredHandOut;
      })
      .finally(() => this.changed());
  }

  /** What has been given under a link, newest first. */
  async given({ id, film_id }: StoredHandOut): Promise<GivenFilm[]> {
    const rows = await this.#db('hand_out_films')
      .join('films', 'films.id', 'hand_out_films.film_id')
      .where({ hand_out_id: id })
      .whereNull('films.removed_at')
      .orderBy('hand_out_films.rowid', 'desc')
      .select('hand_out_films.*', 'films.revision', 'films.size', 'films.film_us');
    return rows.map((row, index) => ({
      ...{ id: row.id, revision: row.revision, size: row.size, filmUs: row.film_us },
      givenAt: row.given_at,
      current:
        row.film_id === film_id && rows.findIndex((one) => one.film_id === film_id) === index,
    }));
  }

  /** The film that was given under a link at some time. @throws TellableError `not-found` */
  async filmGiven(handOutId: string, givenId: string): Promise<string> {
    const row = await this.#db('hand_out_films')
      .join('films', 'films.id', 'hand_out_films.film_id')
      .where({ 'hand_out_films.id': givenId, hand_out_id: handOutId })
      .whereNull('films.removed_at')
      .first('film_id');
    if (!row) throw new TellableError('not-found', `what was given as ${givenId}`);
    return row.film_id;
  }

  /**
   * The film of a link that is made of something: the one that is given now, or one that was given until a few hours ago, which
   * somebody may be watching still.
   *
   * @param version the film's manifest
   * @throws TellableError `not-found`
   */
  async filmOfVersion({ id, film_id }: StoredHandOut, version: string): Promise<StoredFilm> {
    const held = this.#films.get(film_id);
    if (held?.manifest_id === version) return held;
    const current: StoredFilm | undefined = await this.#db('films').where({ id: film_id }).first();
    if (current?.manifest_id === version) {
      this.#films.set(film_id, current);
      return current;
    }
    const film: StoredFilm | undefined = await this.#db('films')
      .where({ manifest_id: version })
      .whereNull('removed_at')
      .whereIn('id', this.#db('hand_out_films').where({ hand_out_id: id }).select('film_id'))
      .first();
    if (!film) throw new TellableError('not-found', 'that film');
    // Until when it was the one: the next was given then.
    const last = await this.#db('hand_out_films')
      .where({ hand_out_id: id, film_id: film.id })
      .max('rowid as at')
      .first();
    const next = await this.#db('hand_out_films')
      .where({ hand_out_id: id })
      .where('rowid', '>', last!['at'] as number)
      .orderBy('rowid')
      .first('given_at');
    if (!next || Date.now() - Date.parse(next.given_at) > GOES_ON_MS) {
      throw new TellableError('not-found', 'that film any more');
    }
    return film;
  }

  /** From when and until when a link can be watched. @throws TellableError `not-found` */
  async setOpen(id: string, fromAt: string | null, untilAt: string | null): Promise<StoredHandOut> {
    const changed = await this.#db('hand_outs')
      .where({ id })
      .update({ from_at: fromAt, until_at: untilAt });
    this.changed();
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
    return this.#db('hand_outs').where({ id }).first() as Promise<StoredHandOut>;
  }

  /** Whether students may save the film. @throws TellableError `not-found` */
  setSaves(id: string, saves: boolean): Promise<StoredHandOut> {
    return this.#set(id, { saves });
  }

  /** Which of its lesson's materials go along with it. @throws TellableError `not-found` */
  setMaterials(id: string, materials: readonly string[]): Promise<StoredHandOut> {
    return this.#set(id, { materials: JSON.stringify(materials) });
  }

  async #set(id: string, change: object): Promise<StoredHandOut> {
    const changed = await this.#db('hand_outs').where({ id }).update(change);
    this.changed();
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
    return this.#db('hand_outs').where({ id }).first() as Promise<StoredHandOut>;
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

  /** Those of a lesson, newest first; also those that were taken away, unless their film is in the bin. */
  async ofLesson(lessonId: string): Promise<StoredHandOut[]> {
    const kept = this.#db('films').whereNull('removed_at').select('id');
    return this.#db('hand_outs')
      .where({ lesson_id: lessonId })
      .andWhere((query) => query.whereNull('taken_back_at').orWhereIn('film_id', kept))
      .orderBy('rowid', 'desc')
      .select('*');
  }

  /** Films that links lead to. */
  async filmsGiven(): Promise<string[]> {
    return this.#db('hand_outs')
      .join('films', 'films.id', 'hand_outs.film_id')
      .whereNull('hand_outs.taken_back_at')
      .whereNull('films.removed_at')
      .distinct()
      .pluck('film_id');
  }

  /**
   * The hand-out that a student's link leads to.
   *
   * @throws TellableError `not-found`, also for a link that was taken away and for a lesson in the bin; `not-open-yet`,
   *   `no-longer-open`
   */
  async byToken(token: string): Promise<StoredHandOut> {
    const row = this.#byToken.get(token) ?? (await this.#find(token));
    const open = row ? openNow(row) : 'taken-back';
    if (!row || open === 'taken-back') throw new TellableError('not-found', 'hand-out');
    if (open === 'not-yet') {
      throw new TellableError('not-open-yet', 'hand-out', { when: row.from_at });
    }
    if (open === 'over') {
      throw new TellableError('no-longer-open', 'hand-out', { when: row.until_at });
    }
    return row;
  }

  async #find(token: string): Promise<StoredHandOut | undefined> {
    const row: StoredHandOut | undefined = await this.#db('hand_outs')
      .join('lessons', 'lessons.id', 'hand_outs.lesson_id')
      .where({ token_hash: hashOf(token) })
      .whereNull('lessons.removed_at')
      .first('hand_outs.*');
    if (row) this.#byToken.set(token, row);
    return row;
  }

  /** Takes a link away. @throws TellableError `not-found` */
  async takeBack(id: string): Promise<void> {
    const changed = await this.#db('hand_outs')
      .where({ id })
      .whereNull('taken_back_at')
      .update({ taken_back_at: now() });
    this.changed();
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
    this.changed();
    if (changed === 0) throw new TellableError('not-found', `hand-out ${id}`);
  }
}
