import {
  MOST_STEPS,
  type LessonRow,
  type LessonView,
  type PutDown,
} from '@under-chalk/core/contract/lessons';
import { referredTakes } from '@under-chalk/core/edit/referred-takes';
import { conflictWith } from '@under-chalk/core/edit/conflict';
import {
  entriesOf,
  isKnown,
  readEntry,
  type Entry,
  type ReadEntry,
} from '@under-chalk/core/edit/entry';
import { isEdit } from '@under-chalk/core/edit/edit';
import { continued, NEW_HISTORY, replay, type History } from '@under-chalk/core/edit/history';
import { latestSteps } from '@under-chalk/core/edit/steps';
import { AppError } from '@under-chalk/core/errors/errors';
import { placeOfTake, type Lesson } from '@under-chalk/core/lesson/lesson';
import { movedTo } from '@under-chalk/core/lesson/placement';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { newId } from './ids';
import { lessonRows, readSummaries, staleRows } from './lesson-rows';
import type { TakeStore } from './take-store';

interface EditRow {
  readonly revision: number;
  readonly entry_id: string;
  readonly entry: string;
  readonly at: string;
}

/** Entries that are kept in memory, over all lessons. */
const MOST_HELD = 300_000;

/**
 * Lessons and their lists of entries. What a lesson is now is always computed from its list: what the list
 * came to so far is held, and what is new is folded on to it.
 */
export class LessonStore {
  readonly #db: Knex;
  readonly #takes: TakeStore;
  readonly #summaries = readSummaries();
  readonly #histories = new LRUCache<string, History>({
    maxSize: MOST_HELD,
    sizeCalculation: (history) => history.entries.length + 1,
  });

  constructor(db: Knex, takes: TakeStore) {
    this.#db = db;
    this.#takes = takes;
  }

  /** @throws AppError `exists-already` */
  async create(id: string, title: string): Promise<void> {
    const at = new Date().toISOString();
    await this.#db.transaction(async (trx) => {
      if (await trx('lessons').where({ id }).first()) throw new AppError('exists-already');
      await trx('lessons').insert({ id, created_at: at, updated_at: at });
      await this.#insert(trx, id, 0, entriesOf([{ do: 'plan', set: { title } }], newId), at);
    });
  }

  /**
   * A lesson whose whole list comes from elsewhere.
   *
   * @throws AppError `exists-already`
   */
  async bringIn(id: string, entries: readonly Entry[]): Promise<void> {
    const at = new Date().toISOString();
    await this.#db.transaction(async (trx) => {
      if (await trx('lessons').where({ id }).first()) throw new AppError('exists-already');
      await trx('lessons').insert({ id, created_at: at, updated_at: at });
      await this.#insert(trx, id, 0, entries, at);
    });
  }

  async #insert(
    trx: Knex,
    id: string,
    revision: number,
    entries: readonly Entry[],
    at: string,
  ): Promise<void> {
    const rows = entries.map((entry, index) => ({
      lesson_id: id,
      revision: revision + index + 1,
      entry_id: entry.id,
      entry: JSON.stringify(entry),
      at,
    }));
    // So many values fit into one statement.
    await trx.batchInsert('edits', rows, 200);
  }

  async #rows(db: Knex, id: string, after: number): Promise<EditRow[]> {
    return db('edits')
      .where({ lesson_id: id })
      .andWhere('revision', '>', after)
      .orderBy('revision')
      .select<EditRow[]>('revision', 'entry_id', 'entry', 'at');
  }

  /** What the list comes to now. @throws AppError `not-found` */
  async #history(db: Knex, id: string): Promise<History> {
    const held = this.#histories.get(id) ?? NEW_HISTORY;
    const rows = await this.#rows(db, id, held.entries.length);
    if (held.entries.length + rows.length === 0) {
      throw new AppError('not-found', `lesson ${id}`);
    }
    if (rows.length === 0) return held;
    return continued(
      held,
      rows.map((row) => readEntry(row.entry, row.entry_id)),
    );
  }

  /** The same, held from then on; never asked for inside a transaction, which may come to nothing. */
  async #heldHistory(id: string): Promise<History> {
    const history = await this.#history(this.#db, id);
    this.#histories.set(id, history);
    return history;
  }

  async #lesson(id: string, { entries, decisions }: History): Promise<Lesson> {
    const own = await this.#takes.ofLesson(id);
    const known = new Set(own.map((take) => take.id));
    // A stretch of another lesson can stand in this one, be seen or be heard in it.
    const others = referredTakes(decisions).filter((takeId) => !known.has(takeId));
    const takes = [...own, ...(await this.#takes.some(others))];
    return { id, revision: entries.length, decisions, takes };
  }

  async #view(id: string, history: History): Promise<LessonView> {
    const { steps, unknown } = history;
    const lesson = await this.#lesson(id, history);
    return { lesson, steps: latestSteps(steps, MOST_STEPS), unknown, making: {} };
  }

  /** @throws AppError `not-found` */
  async view(id: string): Promise<LessonView> {
    return this.#view(id, await this.#heldHistory(id));
  }

  /** A lesson as it was at a revision. @throws AppError `not-found` */
  async lessonAt(id: string, revision: number): Promise<Lesson> {
    const now = await this.#heldHistory(id);
    const then = now.entries.length <= revision ? now : replay(now.entries.slice(0, revision));
    if (then.entries.length === 0) throw new AppError('not-found', `${id} at ${revision}`);
    return this.#lesson(id, then);
  }

  async edits(id: string): Promise<{ revision: number; entry: ReadEntry; at: string }[]> {
    await this.#heldHistory(id);
    return (await this.#rows(this.#db, id, 0)).map(({ revision, entry, entry_id, at }) => ({
      revision,
      entry: readEntry(entry, entry_id),
      at,
    }));
  }

  /**
   * Puts entries at the end of the list. One whose id is there already is left out. One that decides differently
   * what another has decided since `baseRevision` is not put down, nor is what belongs to the same press; the
   * rest is.
   *
   * @param baseRevision what the sender has seen
   * @param anyway ids of those that are put down whatever was decided in between
   * @throws AppError `not-found`
   */
  async append(
    id: string,
    baseRevision: number,
    entries: readonly Entry[],
    anyway: readonly string[] = [],
  ): Promise<PutDown> {
    const at = new Date().toISOString();
    const collided = await this.#db.transaction(async (trx) => {
      const before = await this.#history(trx, id);
      const sent = new Map(entries.map((entry) => [entry.id, entry]));
      const theirs = before.entries.slice(baseRevision).filter(isKnown);
      // What the machine decided gives way: nobody has to be asked.
      const clashes = conflictWith(
        theirs
          .filter(({ id: entryId, by }) => by === 'teacher' && !sent.has(entryId))
          .map(({ edit }) => edit),
      );
      const there = new Set(before.entries.map((entry) => entry.id));
      const fresh = [...sent.values()].filter((entry) => !there.has(entry.id));
      const chosen = new Set(anyway);
      const against = fresh.filter((entry) => !chosen.has(entry.id) && clashes(entry.edit));
      const groups = new Set(against.flatMap(({ group }) => group ?? []));
      const held = new Set(
        fresh
          .filter((entry) => against.includes(entry) || (entry.group && groups.has(entry.group)))
          .map((entry) => entry.id),
      );
      const put = fresh.filter((entry) => !held.has(entry.id));
      await this.#insert(trx, id, before.entries.length, put, at);
      if (put.length > 0) await trx('lessons').where({ id }).update({ updated_at: at });
      return [...held];
    });
    return this.#putDown(await this.#heldHistory(id), baseRevision, collided);
  }

  /** Says which class and unit a lesson is of. @throws AppError `not-found` */
  async move(id: string, className: string, unit: string): Promise<void> {
    const { entries } = await this.#heldHistory(id);
    const edit = { do: 'plan' as const, set: { className, unit } };
    await this.append(id, entries.length, [{ id: newId(), by: 'teacher', edit }]);
  }

  /** Puts lessons into the archive, or takes them out. @returns those that are there, and weren't so before */
  async archive(ids: readonly string[], archived: boolean): Promise<string[]> {
    const which = this.#db('lessons')
      .whereIn('id', [...ids])
      .whereNull('removed_at')
      .modify((query) =>
        archived ? query.whereNull('archived_at') : query.whereNotNull('archived_at'),
      );
    const changed: string[] = await which.clone().pluck('id');
    await which.clone().update({ archived_at: archived ? new Date().toISOString() : null });
    return changed;
  }

  #putDown(history: History, baseRevision: number, collided: string[]): PutDown {
    const since = history.entries.slice(baseRevision);
    const layable = since.every((entry) => !isKnown(entry) || isEdit(entry.edit));
    return {
      revision: history.entries.length,
      since,
      // Laid over what the sender has, an undo would need the whole list.
      decisions: layable ? null : history.decisions,
      steps: latestSteps(history.steps, MOST_STEPS),
      unknown: history.unknown,
      collided,
    };
  }

  /** Gives a take its place at the end of the film, unless it has one. @throws AppError `not-found` */
  async placeAtEnd(id: string, takeId: string): Promise<void> {
    const { decisions, entries } = await this.#heldHistory(id);
    if (placeOfTake({ decisions }, takeId)) return;
    const placement = movedTo({ id: takeId, takeId }, decisions.placements, null);
    const edit = { do: 'place' as const, placement, arrives: true };
    await this.append(id, entries.length, [{ id: newId(), by: 'machine', edit }]);
  }

  /**
   * A second lesson with the same takes, decided about the same way, and a history of its own.
   *
   * @throws AppError `not-found`, `exists-already`
   */
  async duplicate(id: string, newLessonId: string): Promise<void> {
    const { decisions } = await this.#heldHistory(id);
    const at = new Date().toISOString();
    await this.#db.transaction(async (trx) => {
      if (await trx('lessons').where({ id: newLessonId }).first()) {
        throw new AppError('exists-already');
      }
      await trx('lessons').insert({ id: newLessonId, created_at: at, updated_at: at });
      await trx.raw(
        `insert into edits (lesson_id, revision, entry_id, entry, at)
         select ?, revision, entry_id, entry, at from edits where lesson_id = ?`,
        [newLessonId, id],
      );
      const revision = (await this.#rows(trx, newLessonId, 0)).length;
      const title = `Copy of ${decisions.plan.title || 'a lesson without a title'}`.slice(0, 140);
      const named = entriesOf([{ do: 'plan', set: { title } }], newId);
      await this.#insert(trx, newLessonId, revision, named, at);
    });
  }

  /** Lets go of what is held of a lesson that is gone. */
  letGo(id: string): void {
    this.#histories.delete(id);
  }

  /** Lessons whose list summary is out of date. */
  stale(): Promise<string[]> {
    return staleRows(this.#db);
  }

  /**
   * All lessons, last changed first. One that can't be read is told as such, and keeps no other from being read.
   *
   * @param ids only these, where they are given
   */
  async list(
    onUnreadable: (id: string, error: unknown) => void,
    ids?: readonly string[],
  ): Promise<LessonRow[]> {
    return lessonRows(
      this.#db,
      async (id) => (await this.view(id)).lesson,
      onUnreadable,
      this.#summaries,
      ids,
    );
  }
}
