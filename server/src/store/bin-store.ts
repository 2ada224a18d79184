import type { BinKind, BinRow } from '@under-chalk/core/contract/bin';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import { BIN_MS, dueBefore } from './bin-time';

const TABLES = { lesson: 'lessons', take: 'takes', film: 'films' } as const satisfies Record<
  BinKind,
  string
>;

/** Stands in place of a date where something is going for good: it can't be brought back any more. */
const GOING = 'going';
/** Stands in place of a time for a film whose file is gone: its row is kept for what students sent under its link. */
const SPENT = 'spent';

/** What students sent under a link, of one table. */
const sentTo = (db: Knex, table: 'submissions' | 'answers'): Knex.QueryBuilder =>
  db(table).whereRaw(`${table}.share_link_id = share_links.id`);

/** Something in the bin. */
export interface Binned {
  readonly kind: BinKind;
  readonly id: string;
}

/** The files that go when something goes for good. */
export interface Leavings {
  readonly takes: readonly { readonly id: string; readonly trackIds: readonly string[] }[];
  readonly filmIds: readonly string[];
  /** Materials whose files may go along, if nothing else has them. */
  readonly contents: readonly string[];
}

/** What was thrown away: it is seen nowhere else, and goes for good after {@link BIN_DAYS} days. */
export class BinStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /**
   * Puts things into the bin, all of them or none.
   *
   * @throws AppError `not-found`; `film-handed-out`; `take-elsewhere` when another lesson shows the take too
   */
  async put(...all: readonly Binned[]): Promise<void> {
    await this.#db.transaction(async (trx) => {
      for (const binned of all) await this.#putOne(trx, binned);
    });
  }

  async #putOne(trx: Knex, { kind, id }: Binned): Promise<void> {
    if (kind === 'film') {
      const links = await trx('share_links').where({ film_id: id }).whereNull('revoked_at');
      if (links.length > 0) throw new AppError('film-handed-out', id);
    }
    if (kind === 'take' && (await this.#otherLessons(trx, id)).length > 0) {
      throw new AppError('take-elsewhere', id);
    }
    const changed = await trx(TABLES[kind])
      .where({ id })
      .whereNull('removed_at')
      .update({ removed_at: new Date().toISOString() });
    if (changed === 0) throw new AppError('not-found', `${kind} ${id}`);
  }

  /** @throws AppError `not-found`, also when it is going for good */
  async bringBack({ kind, id }: Binned): Promise<void> {
    const changed = await this.#db(TABLES[kind])
      .where({ id })
      .whereNotNull('removed_at')
      .whereNotIn('removed_at', [GOING, SPENT])
      .update({ removed_at: null });
    if (changed === 0) throw new AppError('not-found', `${kind} ${id}`);
  }

  /** What is in the bin, latest first. */
  async all(): Promise<BinRow[]> {
    const bytesOf = `(select coalesce(sum(bytes), 0) from tracks where take_id = takes.id)`;
    const title = `coalesce((select json_extract(summary, '$.title') from lessons as of_lesson where of_lesson.id = `;
    const rows: (Omit<BinRow, 'goesAt'> & { kind: BinKind })[] = await this.#db
      .select(
        this.#db.raw(
          `'lesson' as kind, id, coalesce(json_extract(summary, '$.title'), '') as title,
           coalesce(json_extract(summary, '$.filmUs'), 0) as lengthUs,
           created_at as madeAt, removed_at as removedAt,
           (select coalesce(sum(tracks.bytes), 0) from tracks join takes on takes.id = tracks.take_id
            where takes.lesson_id = lessons.id)
           + (select coalesce(sum(bytes), 0) from films where lesson_id = lessons.id) as bytes`,
        ),
      )
      .from('lessons')
      .whereNotNull('removed_at')
      .unionAll([
        this.#db('takes')
          .whereNotNull('removed_at')
          .select(
            this.#db.raw(
              `'take', id, ${title} takes.lesson_id), ''), duration_us, recorded_at, removed_at, ${bytesOf}`,
            ),
          ),
        this.#db('films')
          .whereNotNull('removed_at')
          .select(
            this.#db.raw(
              `'film', id, ${title} films.lesson_id), ''), film_us, created_at, removed_at, bytes`,
            ),
          ),
      ]);
    return rows
      .filter(({ removedAt }) => removedAt !== GOING && removedAt !== SPENT)
      .sort((a, b) => b.removedAt.localeCompare(a.removedAt))
      .map((row) => ({
        ...row,
        goesAt: new Date(Date.parse(row.removedAt) + BIN_MS).toISOString(),
      }));
  }

  /** What has been in the bin for its time, and what a stopped server left half gone. `now` in ms since 1970. */
  async due(now: number): Promise<Binned[]> {
    const before = dueBefore(now);
    const due: Binned[] = [];
    for (const kind of ['film', 'take', 'lesson'] as const) {
      const ids: string[] = await this.#db(TABLES[kind])
        .where((query) => query.where('removed_at', '<', before).orWhere({ removed_at: GOING }))
        .pluck('id');
      due.push(...ids.map((id) => ({ kind, id })));
    }
    return due;
  }

  /**
   * Says of something in the bin that it goes for good. A lesson's takes that another lesson shows become that
   * one's.
   *
   * @returns the files to be removed before {@link forget}
   * @throws AppError `not-found` when it isn't in the bin
   */
  async going({ kind, id }: Binned): Promise<Leavings> {
    return this.#db.transaction(async (trx) => {
      const changed = await trx(TABLES[kind])
        .where({ id })
        .whereNotNull('removed_at')
        .whereNot({ removed_at: SPENT })
        .update({ removed_at: GOING });
      if (changed === 0) throw new AppError('not-found', `${kind} ${id}`);
      if (kind === 'film') return { takes: [], filmIds: [id], contents: [] };
      if (kind === 'take') {
        return { takes: [await this.#tracks(trx, id)], filmIds: [], contents: [] };
      }
      const takes: Leavings['takes'][number][] = [];
      for (const takeId of (await trx('takes').where({ lesson_id: id }).pluck('id')) as string[]) {
        const [heir] = await this.#otherLessons(trx, takeId);
        if (heir) {
          await trx('takes').where({ id: takeId }).update({ lesson_id: heir });
          // What it was recorded with goes along, and isn’t offered there.
          await trx('materials')
            .where({ lesson_id: id })
            .update({ lesson_id: heir, removed_at: new Date().toISOString() });
        } else takes.push(await this.#tracks(trx, takeId));
      }
      const filmIds: string[] = await trx('films').where({ lesson_id: id }).pluck('id');
      const contents: string[] = await trx('materials')
        .where({ lesson_id: id })
        .whereNotNull('content')
        .distinct()
        .pluck('content');
      return { takes, filmIds, contents };
    });
  }

  /**
   * Forgets what went for good; its files are gone by then. What students handed in or answered under the link of a film stays until
   * its lesson goes.
   */
  async forget(binned: Binned, { takes, filmIds: gone }: Leavings): Promise<void> {
    const { kind, id } = binned;
    const takeIds = takes.map((take) => take.id);
    await this.#db.transaction(async (trx) => {
      const spent = kind === 'film' ? await this.#answeredFilms(trx, gone) : [];
      await trx('films').whereIn('id', spent).update({ removed_at: SPENT, bytes: 0 });
      const filmIds = gone.filter((filmId) => !spent.includes(filmId));
      await trx('link_versions')
        .whereIn('film_id', [...filmIds])
        .orWhereIn(
          'share_link_id',
          trx('share_links')
            .whereIn('film_id', [...filmIds])
            .select('id'),
        )
        .delete();
      const shareLinks = trx('share_links').whereIn('film_id', [...filmIds]);
      for (const table of [
        'grants',
        'passes',
        'views',
        'viewings',
        'answers',
        'submission_files',
        'submissions',
        'mail',
        'mail_batches',
        'site_scores',
      ])
        await trx(table).whereIn('share_link_id', shareLinks.clone().select('id')).delete();
      await shareLinks.clone().delete();
      await trx('film_streams')
        .whereIn('film_id', [...filmIds])
        .delete();
      await trx('films')
        .whereIn('id', [...filmIds])
        .delete();
      await trx('tracks').whereIn('take_id', takeIds).delete();
      await trx('takes').whereIn('id', takeIds).delete();
      if (kind !== 'lesson') return;
      await trx('edits').where({ lesson_id: id }).delete();
      await trx('materials').where({ lesson_id: id }).delete();
      await trx('transcripts').where({ lesson_id: id }).delete();
      await trx('transcript_search_state').where({ lesson_id: id }).delete();
      await trx('lessons').where({ id }).delete();
    });
  }

  /** Those of some films under whose links students handed in or answered something. */
  async #answeredFilms(trx: Knex, filmIds: readonly string[]): Promise<string[]> {
    return trx('share_links')
      .whereIn('film_id', [...filmIds])
      .andWhere((query) =>
        query.whereExists(sentTo(trx, 'submissions')).orWhereExists(sentTo(trx, 'answers')),
      )
      .distinct()
      .pluck('film_id');
  }

  async #tracks(trx: Knex, takeId: string) {
    const trackIds: string[] = await trx('tracks').where({ take_id: takeId }).pluck('id');
    return { id: takeId, trackIds };
  }

  /** Other lessons whose edits name a take, those in use first. */
  async #otherLessons(trx: Knex, takeId: string): Promise<string[]> {
    return trx('lessons')
      .whereNot('id', trx('takes').where({ id: takeId }).select('lesson_id'))
      .andWhere((query) => query.whereNull('removed_at').orWhereNot({ removed_at: GOING }))
      .whereExists(
        trx('edits')
          .whereRaw('edits.lesson_id = lessons.id')
          .andWhereRaw('instr(edits.entry, ?) > 0', [JSON.stringify(takeId)]),
      )
      .orderByRaw('removed_at is not null')
      .pluck('id');
  }
}
