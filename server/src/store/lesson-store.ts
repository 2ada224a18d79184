import {
  lessonRowSchema,
  type LessonRow,
  type LessonView,
} from '@under-chalk/core/contract/lessons';
import { conflict } from '@under-chalk/core/edit/conflict';
import { entrySchema, type Entry } from '@under-chalk/core/edit/edit';
import { replay, type History } from '@under-chalk/core/edit/history';
import { TellableError } from '@under-chalk/core/errors/errors';
import { filmOf } from '@under-chalk/core/film/film';
import { FREE_DESTINATION_ID } from '@under-chalk/core/place/destination';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { Knex } from 'knex';
import type { TakeStore } from './take-store';

interface EditRow {
  readonly revision: number;
  readonly entry: string;
  readonly at: string;
}

/** What is told of a lesson of which nothing can be read. */
const UNREADABLE = {
  title: '',
  className: '',
  unit: '',
  destinationId: FREE_DESTINATION_ID,
  filmUs: 0,
  takeCount: 0,
  pictureTakeId: null,
  pictureUs: 0,
  bytes: 0,
  problem: 'lesson-unreadable',
};

/** Entries as they are stored. @throws TellableError `lesson-unreadable` for one of no kind that is known here */
const entriesOf = (rows: readonly EditRow[]): Entry[] =>
  rows.map((row) => {
    const read = entrySchema.safeParse(JSON.parse(row.entry));
    if (!read.success) {
      throw new TellableError('lesson-unreadable', `edit ${row.revision}: ${read.error.message}`);
    }
    return read.data;
  });

/** Lessons and their lists of edits. What a lesson is now is always computed from its list. */
export class LessonStore {
  readonly #db: Knex;
  readonly #takes: TakeStore;
  /** What the list of a lesson came to at a revision; a list only grows, so this can't go stale. */
  readonly #histories = new Map<string, { revision: number; history: History }>();

  constructor(db: Knex, takes: TakeStore) {
    this.#db = db;
    this.#takes = takes;
  }

  /** @throws TellableError `exists-already` */
  async create(id: string, title: string): Promise<void> {
    const at = new Date().toISOString();
    const entry: Entry = { do: 'plan', set: { title } };
    await this.#db.transaction(async (trx) => {
      if (await trx('lessons').where({ id }).first()) throw new TellableError('exists-already');
      await trx('lessons').insert({ id, created_at: at, updated_at: at });
      await trx('edits').insert({ lesson_id: id, revision: 1, entry: JSON.stringify(entry), at });
    });
  }

  async #entries(db: Knex, id: string, after = 0): Promise<EditRow[]> {
    return db('edits')
      .where({ lesson_id: id })
      .andWhere('revision', '>', after)
      .orderBy('revision')
      .select<EditRow[]>('revision', 'entry', 'at');
  }

  async #historyOf(id: string): Promise<{ revision: number; history: History }> {
    const newest = await this.#db('edits')
      .where({ lesson_id: id })
      .max<{ revision: number | null }>('revision as revision')
      .first();
    const revision = newest?.revision ?? 0;
    if (revision === 0) throw new TellableError('not-found', `lesson ${id}`);
    const known = this.#histories.get(id);
    if (known?.revision === revision) return known;
    const rows = await this.#entries(this.#db, id);
    const history = replay(entriesOf(rows));
    const fresh = { revision: rows.at(-1)!.revision, history };
    this.#histories.set(id, fresh);
    return fresh;
  }

  /** @throws TellableError `not-found` */
  async view(id: string): Promise<LessonView> {
    const { revision, history } = await this.#historyOf(id);
    const { decisions, canUndo, canRedo } = history;
    return {
      lesson: { id, revision, decisions, takes: await this.#takes.ofLesson(id) },
      canUndo,
      canRedo,
    };
  }

  /** A lesson as it was at a revision. @throws TellableError `not-found` */
  async lessonAt(id: string, revision: number): Promise<Lesson> {
    const rows = (await this.#entries(this.#db, id)).filter((row) => row.revision <= revision);
    if (rows.length === 0) throw new TellableError('not-found', `lesson ${id} at ${revision}`);
    const { decisions } = replay(entriesOf(rows));
    return { id, revision, decisions, takes: await this.#takes.ofLesson(id) };
  }

  async edits(id: string): Promise<{ revision: number; entry: Entry; at: string }[]> {
    await this.#historyOf(id);
    const rows = await this.#entries(this.#db, id);
    const entries = entriesOf(rows);
    return rows.map((row, index) => ({ ...row, entry: entries[index]! }));
  }

  /**
   * Puts edits at the end of the list, all or none.
   *
   * @param baseRevision what the sender has seen. An edit made since that decides the same thing
   *   stops it, unless `anyway`.
   * @throws TellableError `not-found`, `changed-elsewhere`
   */
  async append(
    id: string,
    baseRevision: number,
    entries: readonly Entry[],
    anyway = false,
  ): Promise<LessonView> {
    const at = new Date().toISOString();
    await this.#db.transaction(async (trx) => {
      const since = await this.#entries(trx, id, baseRevision);
      const newest =
        since.at(-1)?.revision ??
        (await trx('edits').where({ lesson_id: id }).max('revision as revision').first())?.revision;
      if (!newest) throw new TellableError('not-found', `lesson ${id}`);
      const made = entriesOf(since);
      const meets = made.some((theirs) => entries.some((ours) => conflict(theirs, ours)));
      if (meets && !anyway) throw new TellableError('changed-elsewhere');
      await trx('edits').insert(
        entries.map((entry, index) => ({
          lesson_id: id,
          revision: (newest as number) + index + 1,
          entry: JSON.stringify(entry),
          at,
        })),
      );
      await trx('lessons').where({ id }).update({ updated_at: at });
    });
    return this.view(id);
  }

  /**
   * Takes a lesson out of the list, or puts it back.
   *
   * @throws TellableError `not-found`
   */
  async setRemoved(id: string, removed: boolean): Promise<void> {
    const changed = await this.#db('lessons')
      .where({ id })
      .update({ removed_at: removed ? new Date().toISOString() : null });
    if (changed === 0) throw new TellableError('not-found', `lesson ${id}`);
  }

  /** All lessons, last changed first. One that can't be read is told as such, and keeps no other from being read. */
  async list(onUnreadable: (id: string, error: unknown) => void): Promise<LessonRow[]> {
    const rows = await this.#db('lessons')
      .whereNull('removed_at')
      .orderBy('updated_at', 'desc')
      .select('id', 'updated_at');
    const handedOut = new Set<string>(
      await this.#db('hand_outs').whereNull('taken_back_at').pluck('lesson_id'),
    );
    return Promise.all(
      rows.map(async ({ id, updated_at }: { id: string; updated_at: string }) => {
        const row = { id, handedOut: handedOut.has(id), updatedAt: updated_at };
        try {
          const read = lessonRowSchema.parse({ ...row, ...(await this.#rowOf(id)), problem: null });
          return read;
        } catch (error) {
          onUnreadable(id, error);
          return { ...UNREADABLE, ...row };
        }
      }),
    );
  }

  async #rowOf(id: string): Promise<Omit<LessonRow, 'id' | 'handedOut' | 'updatedAt' | 'problem'>> {
    const { lesson } = await this.view(id);
    const { plan } = lesson.decisions;
    const film = filmOf(lesson);
    const pictured = film.spans.find((span) => span.take.tracks.some((track) => track.widthPx > 0));
    return {
      title: plan.title,
      className: plan.className,
      unit: plan.unit,
      destinationId: plan.destinationId,
      filmUs: film.durationUs,
      takeCount: lesson.takes.length,
      pictureTakeId: pictured?.take.id ?? null,
      pictureUs: pictured ? Math.round(pictured.take.durationUs / 2) : 0,
      bytes: await this.#takes.bytesOfLesson(id),
    };
  }
}
