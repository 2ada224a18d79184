import { mayWatch } from '@under-chalk/core/hand-out/may-watch';
import { ANYONE, type Grant } from '@under-chalk/core/hand-out/grant';
import { TellableError } from '@under-chalk/core/errors/errors';
import { activitySchema, type Activity } from '@under-chalk/core/submission/assignment';
import type { GivenFilm, HandOut } from '@under-chalk/core/contract/hand-outs';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import * as z from 'zod';
import type { StoredFilm } from './film-store';
import type { GrantStore } from './grant-store';
import { newId, newToken } from './ids';
import type { LinkSeal } from './link-seal';
import { availabilityOf } from './availability';
import { readJson } from './read-json';
import type { TokenFinder } from './token-finder';

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
  /** What is to be done afterwards, JSON; null: nothing. */
  readonly activity: string | null;
  /** Ids of materials that students may save, JSON. */
  readonly materials: string;
}

/** A hand-out with what a student's page tells of it. */
export interface ShelvedHandOut extends StoredHandOut {
  /** Of the film that is given; null for one of an earlier version that nobody has watched since. */
  readonly title: string | null;
  readonly film_us: number;
}

/** Films that are asked for again and again are held for so long, ms. */
const HELD_MS = 1_000;
const MOST_HELD = 500;

/** Whoever watches a film when another is given in its place can go on with it for so long, ms. */
const GOES_ON_MS = 6 * 3_600_000;

/** The materials that a hand-out gives along. */
export const materialsGiven = ({ materials }: StoredHandOut): string[] =>
  readJson(z.array(z.string()), materials) ?? [];

/** What students do when they have watched what is handed out. */
export const activityOf = ({ activity }: Pick<StoredHandOut, 'activity'>): Activity | null =>
  activity === null ? null : readJson(activitySchema, activity);

const now = () => new Date().toISOString();

/** Whether a hand-out may be watched at this moment by those whom it is for. */
export const openNow = (handOut: StoredHandOut): HandOut['state'] => {
  const { is } = mayWatch({ is: 'link' }, availabilityOf(handOut, [ANYONE]), Date.now());
  return is === 'not-theirs' ? 'taken-back' : is;
};

/** The links under which films are handed out, and what has been given under each. */
export class HandOutStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;
  readonly #films = new LRUCache<string, StoredFilm>({ max: MOST_HELD, ttl: HELD_MS });

  readonly #grants: GrantStore;
  readonly #finder: TokenFinder;

  constructor(db: Knex, seal: LinkSeal, grants: GrantStore, finder: TokenFinder) {
    this.#db = db;
    this.#seal = seal;
    this.#grants = grants;
    this.#finder = finder;
  }

  /** Forgets what links lead to: something has been changed that is kept elsewhere. */
  changed(): void {
    this.#finder.forget();
    this.#films.clear();
  }

  /** @throws TellableError `not-found` for a class or a student that isn't there */
  async add(
    lessonId: string,
    filmId: string,
    grants: readonly Grant[] = [ANYONE],
  ): Promise<StoredHandOut> {
    const { hash, sealed } = this.#seal.keep(newToken());
    const id = newId();
    return this.#db.transaction(async (trx) => {
      await trx('hand_outs').insert({
        ...{ id, lesson_id: lessonId, film_id: filmId },
        ...{ token_sealed: sealed, token_hash: hash, created_at: now() },
      });
      await this.#given(trx, id, filmId);
      await this.#grants.set(id, grants, trx);
      return trx('hand_outs').where({ id }).first();
    });
  }

  /** Who may watch it. @throws TellableError `not-found` */
  async setGrants(id: string, grants: readonly Grant[]): Promise<StoredHandOut> {
    const handOut = await this.get(id);
    await this.#grants.set(id, grants).finally(() => this.changed());
    return handOut;
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
    return rows.map((row, index) => {
      const isLast = rows.findIndex((one) => one.film_id === row.film_id) === index;
      const current = row.film_id === film_id && isLast;
      const next = rows[index - 1];
      const goesOnMs = next ? Date.parse(next.given_at) + GOES_ON_MS : 0;
      const goesOn =
        isLast && row.film_id !== film_id && row.ended_at === null && goesOnMs > Date.now();
      return {
        ...{ id: row.id, revision: row.revision, size: row.size, filmUs: row.film_us },
        ...{ givenAt: row.given_at, current },
        goesOnUntil: goesOn ? new Date(goesOnMs).toISOString() : null,
      };
    });
  }

  /** Stops what was given before, at once, also for those who have it open. @throws TellableError `not-found` */
  async endEarlier(id: string): Promise<StoredHandOut> {
    const handOut = await this.get(id);
    await this.#db('hand_out_films')
      .where({ hand_out_id: id, ended_at: null })
      .whereNot({ film_id: handOut.film_id })
      .update({ ended_at: now() });
    this.changed();
    return handOut;
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
      .orderBy('rowid', 'desc')
      .first('rowid as at', 'ended_at');
    if (last!['ended_at'] !== null) throw new TellableError('not-found', 'a film that was stopped');
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

  /** What students do afterwards. @throws TellableError `not-found` */
  setActivity(id: string, activity: Activity | null): Promise<StoredHandOut> {
    return this.#set(id, { activity: activity && JSON.stringify(activity) });
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
    return this.#seal.opened(token_sealed);
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
      .andWhere((query) =>
        query
          .whereNull('taken_back_at')
          .orWhereIn('film_id', kept)
          // What students sent is found where its link was.
          .orWhereIn('id', this.#db('submissions').select('hand_out_id'))
          .orWhereIn('id', this.#db('answers').select('hand_out_id')),
      )
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
   * Those that may be shown on a page: of films and lessons that are there, granted to the student or to one of the classes; newest
   * first.
   */
  async onPage(studentId: string | null, classIds: readonly string[]): Promise<ShelvedHandOut[]> {
    const theirs = this.#db('grants')
      .where({ whom: 'student', whom_id: studentId })
      .orWhere((query) => query.where({ whom: 'class' }).whereIn('whom_id', [...classIds]))
      .select('hand_out_id');
    return this.#db('hand_outs')
      .join('films', 'films.id', 'hand_outs.film_id')
      .join('lessons', 'lessons.id', 'hand_outs.lesson_id')
      .whereIn('hand_outs.id', theirs)
      .whereNull('hand_outs.taken_back_at')
      .whereNull('films.removed_at')
      .whereNull('lessons.removed_at')
      .orderBy('hand_outs.rowid', 'desc')
      .select(
        'hand_outs.*',
        'films.film_us',
        this.#db.raw(`json_extract(films.words, '$.title') as title`),
      );
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
