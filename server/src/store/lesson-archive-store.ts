import type { LessonImport } from '@under-chalk/core/contract/lesson-archives';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';

interface BundleRow {
  readonly id: string;
  readonly state: LessonImport['state'];
  readonly lesson_id: string | null;
  readonly problem: string | null;
}

/** Archives of lessons that are brought in, and what became of them. */
export class LessonArchiveStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** Said again it changes nothing. @throws AppError `exists-already` where bytes of something else come by that name */
  async expect(id: string): Promise<void> {
    for (const table of ['tracks', 'materials']) {
      if (await this.#db(table).where({ id }).first('id')) throw new AppError('exists-already', id);
    }
    const row = { id, state: 'coming', begun_at: new Date().toISOString() };
    await this.#db('lesson_imports').insert(row).onConflict('id').ignore();
  }

  /** @throws AppError `not-found` */
  async get(id: string): Promise<Omit<LessonImport, 'done'>> {
    const row = await this.#db('lesson_imports').where({ id }).first<BundleRow | undefined>();
    if (!row) throw new AppError('not-found', `archive ${id}`);
    return { id, state: row.state, lessonId: row.lesson_id, problem: row.problem };
  }

  async isComing(id: string): Promise<boolean> {
    return (
      (await this.#db('lesson_imports').where({ id, state: 'coming' }).first('id')) !== undefined
    );
  }

  async opening(): Promise<string[]> {
    return this.#db('lesson_imports').where({ state: 'opening' }).orderBy('begun_at').pluck('id');
  }

  async open(id: string): Promise<void> {
    await this.#db('lesson_imports').where({ id }).update({ state: 'opening', problem: null });
  }

  async refuse(id: string, problem: string): Promise<void> {
    await this.#db('lesson_imports').where({ id }).update({ state: 'refused', problem });
  }

  /** It is a lesson now. */
  async isIn(id: string, lessonId: string): Promise<void> {
    await this.#db('lesson_imports').where({ id }).update({ state: 'in', lesson_id: lessonId });
  }

  /** Those begun before a time (ms since 1970) that nothing is being done about. */
  async leftSince(ms: number): Promise<string[]> {
    return this.#db('lesson_imports')
      .whereNot({ state: 'opening' })
      .andWhere('begun_at', '<', new Date(ms).toISOString())
      .pluck('id');
  }

  async forget(id: string): Promise<void> {
    await this.#db('lesson_imports').where({ id }).delete();
  }
}
