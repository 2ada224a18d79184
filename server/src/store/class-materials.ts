import { AppError } from '@under-chalk/core/errors/errors';
import { MOST_MATERIALS, type ClassMaterial } from '@under-chalk/core/material/material';
import type { Knex } from 'knex';
import { countOf } from './count-of';
import { dueBefore } from './bin-time';
import { FIRST_TEACHER } from './migrations';

/** Columns that a material has wherever it is kept. */
const COMMON = ['name', 'content', 'aspects', 'dark', 'words', 'bytes'] as const;
type Common = Record<(typeof COMMON)[number], string | number>;

/** What a class keeps for its next lessons. It stays when the lesson goes that it was brought into. */
export class ClassMaterials {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** What is kept for a class, by name. */
  async of(className: string): Promise<ClassMaterial[]> {
    const rows = await this.#db('class_materials')
      .where({ class_name: className, removed_at: null })
      .orderBy(['name', 'id'])
      .select<{ id: string; name: string; content: string; aspects: string }[]>([
        ...(['id', 'name', 'content', 'aspects'] as const),
      ]);
    return rows.map(({ aspects, ...row }) => ({
      ...row,
      pages: (JSON.parse(aspects) as number[]).length,
    }));
  }

  /** A class has another name: what is kept for it stays with it. */
  async follow(from: string, to: string): Promise<void> {
    // What is kept under both is the same.
    await this.#db.raw('update or ignore class_materials set class_name = ? where class_name = ?', [
      ...[to, from],
    ]);
  }

  /**
   * Keeps a lesson's material for a class, once.
   *
   * @param newId names it there
   * @throws AppError `not-found`, `not-ready`; `too-many-materials`
   */
  async keep(className: string, materialId: string, newId: string): Promise<void> {
    await this.#db.transaction(async (trx) => {
      const material = await trx('materials').where({ id: materialId }).first();
      if (!material) throw new AppError('not-found', `material ${materialId}`);
      if (material.state !== 'ready') throw new AppError('not-ready', materialId);
      const common = Object.fromEntries(
        COMMON.map((name) => [name, material[name]]),
      ) as unknown as Common;
      const same = { class_name: className, content: common.content };
      const changed = await trx('class_materials')
        .where(same)
        .update({ ...common, removed_at: null });
      if (changed > 0) return;
      const others = trx('class_materials').where({ class_name: className, removed_at: null });
      if ((await countOf(others)) >= MOST_MATERIALS) throw new AppError('too-many-materials');
      await trx('class_materials').insert({
        ...{ id: newId, class_name: className, ...common },
        ...{ kept_at: new Date().toISOString(), teacher_id: FIRST_TEACHER },
      });
    });
  }

  /** Keeps something no longer, or again after all. @throws AppError `not-found` */
  async change(id: string, kept: boolean): Promise<void> {
    const removedAt = kept ? null : new Date().toISOString();
    const changed = await this.#db('class_materials')
      .where({ id })
      .update({ removed_at: removedAt });
    if (changed === 0) throw new AppError('not-found', `material ${id} of a class`);
  }

  /** What a lesson is given of one. @throws AppError `not-found` */
  async common(id: string): Promise<Common> {
    const row = await this.#db('class_materials').where({ id }).first<Common | undefined>(COMMON);
    if (!row) throw new AppError('not-found', `material ${id}`);
    return row;
  }

  async has(content: string): Promise<boolean> {
    return (await this.#db('class_materials').where({ content }).first()) !== undefined;
  }

  /** Forgets what has not been kept for as long as the bin keeps things. `now` in ms since 1970. @returns their contents */
  async forget(now: number): Promise<string[]> {
    const before = dueBefore(now);
    const due = () => this.#db('class_materials').where('removed_at', '<', before);
    const contents: string[] = await due().pluck('content');
    await due().delete();
    return contents;
  }
}
