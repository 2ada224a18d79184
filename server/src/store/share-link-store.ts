import { mayWatch } from '@under-chalk/core/share-link/may-watch';
import { ANYONE, type Grant } from '@under-chalk/core/share-link/grant';
import { AppError } from '@under-chalk/core/errors/errors';
import { assignmentSchema, type Assignment } from '@under-chalk/core/submission/assignment';
import type { LinkVersion, ShareLink } from '@under-chalk/core/contract/share-links';
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

export interface StoredShareLink {
  readonly id: string;
  readonly lesson_id: string;
  /** What is given now. */
  readonly film_id: string;
  readonly token_sealed: string;
  readonly created_at: string;
  readonly revoked_at: string | null;
  readonly available_from: string | null;
  readonly available_until: string | null;
  /** 1: students may save the film; 0: only watch it. */
  readonly downloads: number;
  /** What is to be done afterwards, JSON; null: nothing. */
  readonly assignment: string | null;
  /** Ids of materials that students may save, JSON. */
  readonly attachments: string;
}

/** A link with what a student's page tells of it. */
export interface LinkOnPage extends StoredShareLink {
  /** Of the film that is given; null for one of an earlier version that nobody has watched since. */
  readonly title: string | null;
  readonly film_us: number;
}

/** Films that are asked for again and again are held for so long, ms. */
const HELD_MS = 1_000;
const MOST_HELD = 500;

/** Whoever watches a film when another is given in its place can go on with it for so long, ms. */
const GOES_ON_MS = 6 * 3_600_000;

/** The materials that a link gives along. */
export const attachmentsOf = ({ attachments }: StoredShareLink): string[] =>
  readJson(z.array(z.string()), attachments) ?? [];

/** What students do when they have watched what is handed out. */
export const assignmentOf = ({
  assignment,
}: Pick<StoredShareLink, 'assignment'>): Assignment | null =>
  assignment === null ? null : readJson(assignmentSchema, assignment);

const now = () => new Date().toISOString();

/** Whether a link may be watched at this moment by those whom it is for. */
export const openNow = (shareLink: StoredShareLink): ShareLink['state'] => {
  const { is } = mayWatch({ is: 'link' }, availabilityOf(shareLink, [ANYONE]), Date.now());
  return is === 'not-theirs' ? 'revoked' : is;
};

/** The links under which films are handed out, and what has been given under each. */
export class ShareLinkStore {
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

  /** @throws AppError `not-found` for a class or a student that isn't there */
  async add(
    lessonId: string,
    filmId: string,
    grants: readonly Grant[] = [ANYONE],
  ): Promise<StoredShareLink> {
    const { hash, sealed } = this.#seal.keep(newToken());
    const id = newId();
    return this.#db.transaction(async (trx) => {
      await trx('share_links').insert({
        ...{ id, lesson_id: lessonId, film_id: filmId },
        ...{ token_sealed: sealed, token_hash: hash, created_at: now() },
      });
      await this.#given(trx, id, filmId);
      await this.#grants.set(id, grants, trx);
      return trx('share_links').where({ id }).first();
    });
  }

  /** Who may watch it. @throws AppError `not-found` */
  async setGrants(id: string, grants: readonly Grant[]): Promise<StoredShareLink> {
    const shareLink = await this.get(id);
    await this.#grants.set(id, grants).finally(() => this.changed());
    return shareLink;
  }

  async #given(trx: Knex, shareLinkId: string, filmId: string): Promise<void> {
    const row = { id: newId(), share_link_id: shareLinkId, film_id: filmId, published_at: now() };
    await trx('link_versions').insert(row);
  }

  /** Gives another film under a link. @throws AppError `not-found` */
  async give(id: string, filmId: string): Promise<StoredShareLink> {
    return this.#db
      .transaction(async (trx) => {
        const before = await trx('share_links').where({ id }).whereNull('revoked_at').first();
        if (!before) throw new AppError('not-found', `link ${id}`);
        if (before.film_id === filmId) return before as StoredShareLink;
        await trx('share_links').where({ id }).update({ film_id: filmId });
        await this.#given(trx, id, filmId);
        return { ...before, film_id: filmId } as StoredShareLink;
      })
      .finally(() => this.changed());
  }

  /** What has been given under a link, newest first. */
  async given({ id, film_id }: StoredShareLink): Promise<LinkVersion[]> {
    const rows = await this.#db('link_versions')
      .join('films', 'films.id', 'link_versions.film_id')
      .where({ share_link_id: id })
      .whereNull('films.removed_at')
      .orderBy('link_versions.rowid', 'desc')
      .select('link_versions.*', 'films.revision', 'films.size', 'films.film_us');
    return rows.map((row, index) => {
      const isLast = rows.findIndex((one) => one.film_id === row.film_id) === index;
      const current = row.film_id === film_id && isLast;
      const next = rows[index - 1];
      const goesOnMs = next ? Date.parse(next.published_at) + GOES_ON_MS : 0;
      const goesOn =
        isLast && row.film_id !== film_id && row.ended_at === null && goesOnMs > Date.now();
      return {
        ...{ id: row.id, revision: row.revision, size: row.size, filmUs: row.film_us },
        ...{ publishedAt: row.published_at, current },
        goesOnUntil: goesOn ? new Date(goesOnMs).toISOString() : null,
      };
    });
  }

  /** Stops what was given before, at once, also for those who have it open. @throws AppError `not-found` */
  async endEarlier(id: string): Promise<StoredShareLink> {
    const shareLink = await this.get(id);
    await this.#db('link_versions')
      .where({ share_link_id: id, ended_at: null })
      .whereNot({ film_id: shareLink.film_id })
      .update({ ended_at: now() });
    this.changed();
    return shareLink;
  }

  /** The film that was given under a link at some time. @throws AppError `not-found` */
  async filmGiven(shareLinkId: string, givenId: string): Promise<string> {
    const row = await this.#db('link_versions')
      .join('films', 'films.id', 'link_versions.film_id')
      .where({ 'link_versions.id': givenId, share_link_id: shareLinkId })
      .whereNull('films.removed_at')
      .first('film_id');
    if (!row) throw new AppError('not-found', `what was given as ${givenId}`);
    return row.film_id;
  }

  /**
   * The film of a link that is made of something: the one that is given now, or one that was given until a few hours ago, which
   * somebody may be watching still.
   *
   * @param version the film's manifest
   * @throws AppError `not-found`
   */
  async filmOfVersion({ id, film_id }: StoredShareLink, version: string): Promise<StoredFilm> {
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
      .whereIn('id', this.#db('link_versions').where({ share_link_id: id }).select('film_id'))
      .first();
    if (!film) throw new AppError('not-found', 'that film');
    // Until when it was the one: the next was given then.
    const last = await this.#db('link_versions')
      .where({ share_link_id: id, film_id: film.id })
      .orderBy('rowid', 'desc')
      .first('rowid as at', 'ended_at');
    if (last!['ended_at'] !== null) throw new AppError('not-found', 'a film that was stopped');
    const next = await this.#db('link_versions')
      .where({ share_link_id: id })
      .where('rowid', '>', last!['at'] as number)
      .orderBy('rowid')
      .first('published_at');
    if (!next || Date.now() - Date.parse(next.published_at) > GOES_ON_MS) {
      throw new AppError('not-found', 'that film any more');
    }
    return film;
  }

  /** From when and until when a link can be watched. @throws AppError `not-found` */
  async setOpen(
    id: string,
    availableFrom: string | null,
    availableUntil: string | null,
  ): Promise<StoredShareLink> {
    const changed = await this.#db('share_links')
      .where({ id })
      .update({ available_from: availableFrom, available_until: availableUntil });
    this.changed();
    if (changed === 0) throw new AppError('not-found', `link ${id}`);
    return this.#db('share_links').where({ id }).first() as Promise<StoredShareLink>;
  }

  /** Whether students may save the film. @throws AppError `not-found` */
  setSaves(id: string, downloads: boolean): Promise<StoredShareLink> {
    return this.#set(id, { downloads });
  }

  /** What students do afterwards. @throws AppError `not-found` */
  setActivity(id: string, assignment: Assignment | null): Promise<StoredShareLink> {
    return this.#set(id, { assignment: assignment && JSON.stringify(assignment) });
  }

  /** Which of its lesson's materials go along with it. @throws AppError `not-found` */
  setAttachments(id: string, attachments: readonly string[]): Promise<StoredShareLink> {
    return this.#set(id, { attachments: JSON.stringify(attachments) });
  }

  async #set(id: string, change: object): Promise<StoredShareLink> {
    const changed = await this.#db('share_links').where({ id }).update(change);
    this.changed();
    if (changed === 0) throw new AppError('not-found', `link ${id}`);
    return this.#db('share_links').where({ id }).first() as Promise<StoredShareLink>;
  }

  /** The unguessable part of a link, for its teacher; null where the key that it was kept with is gone. */
  tokenOf({ token_sealed }: StoredShareLink): string | null {
    return this.#seal.opened(token_sealed);
  }

  /** @throws AppError `not-found`, also for a link that was taken away */
  async get(id: string): Promise<StoredShareLink> {
    const row = await this.#db('share_links').where({ id }).whereNull('revoked_at').first();
    if (!row) throw new AppError('not-found', `link ${id}`);
    return row;
  }

  /** Those of a lesson, newest first; also those that were taken away, unless their film is in the bin. */
  async ofLesson(lessonId: string): Promise<StoredShareLink[]> {
    const kept = this.#db('films').whereNull('removed_at').select('id');
    return this.#db('share_links')
      .where({ lesson_id: lessonId })
      .andWhere((query) =>
        query
          .whereNull('revoked_at')
          .orWhereIn('film_id', kept)
          // What students sent is found where its link was.
          .orWhereIn('id', this.#db('submissions').select('share_link_id'))
          .orWhereIn('id', this.#db('answers').select('share_link_id')),
      )
      .orderBy('rowid', 'desc')
      .select('*');
  }

  /** Films that links lead to. */
  async filmsGiven(): Promise<string[]> {
    return this.#db('share_links')
      .join('films', 'films.id', 'share_links.film_id')
      .whereNull('share_links.revoked_at')
      .whereNull('films.removed_at')
      .distinct()
      .pluck('film_id');
  }

  /**
   * Those that may be shown on a page: of films and lessons that are there, granted to the student or to one of the classes; newest
   * first.
   */
  async onPage(studentId: string | null, classIds: readonly string[]): Promise<LinkOnPage[]> {
    const theirs = this.#db('grants')
      .where({ grantee: 'student', grantee_id: studentId })
      .orWhere((query) => query.where({ grantee: 'class' }).whereIn('grantee_id', [...classIds]))
      .select('share_link_id');
    return this.#db('share_links')
      .join('films', 'films.id', 'share_links.film_id')
      .join('lessons', 'lessons.id', 'share_links.lesson_id')
      .whereIn('share_links.id', theirs)
      .whereNull('share_links.revoked_at')
      .whereNull('films.removed_at')
      .whereNull('lessons.removed_at')
      .orderBy('share_links.rowid', 'desc')
      .select(
        'share_links.*',
        'films.film_us',
        this.#db.raw(`json_extract(films.words, '$.title') as title`),
      );
  }

  /** Takes a link away. @throws AppError `not-found` */
  async revoke(id: string): Promise<void> {
    const changed = await this.#db('share_links')
      .where({ id })
      .whereNull('revoked_at')
      .update({ revoked_at: now() });
    this.changed();
    if (changed === 0) throw new AppError('not-found', `link ${id}`);
  }

  /**
   * Lets a link that was taken away be used again, under the same address.
   *
   * @throws AppError `not-found`, also when its film is in the bin
   */
  async giveAgain(id: string): Promise<void> {
    const changed = await this.#db('share_links')
      .where({ id })
      .whereIn('film_id', this.#db('films').whereNull('removed_at').select('id'))
      .update({ revoked_at: null });
    this.changed();
    if (changed === 0) throw new AppError('not-found', `link ${id}`);
  }
}
