import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import {
  MOST_MATERIALS,
  type KeptMaterial,
  type Material,
} from '@under-chalk/core/material/material';
import type { Knex } from 'knex';
import { countOf } from './count-of';
import type { ClassMaterials } from './class-materials';

interface MaterialRow {
  readonly id: string;
  readonly lesson_id: string;
  readonly name: string;
  readonly state: Material['state'];
  readonly problem: string | null;
  readonly content: string | null;
  readonly aspects: string;
  readonly dark: number;
  readonly words: string;
  readonly bytes: number;
  readonly brought_at: string;
}

/** A material that can be brought into another lesson, and of which it is. */
type KeptRow = Omit<KeptMaterial, 'lesson' | 'className'> & { readonly lessonId: string };

/** What a list tells: what hundreds of pages say is asked for by itself. */
const LISTED = [
  ...(['id', 'lesson_id', 'name', 'state', 'problem', 'content'] as const),
  ...(['aspects', 'dark', 'bytes', 'brought_at'] as const),
];
type ListedRow = Omit<MaterialRow, 'words'>;

const toMaterial = (row: ListedRow): Material => ({
  id: row.id,
  name: row.name,
  state: row.state,
  problem: row.problem,
  content: row.content,
  aspects: JSON.parse(row.aspects) as number[],
  dark: row.dark === 1,
  bytes: row.bytes,
  broughtAt: row.brought_at,
});

/** What was brought into lessons to be shown and written on. */
export class MaterialStore {
  readonly #db: Knex;
  readonly #ofClasses: ClassMaterials;

  constructor(db: Knex, ofClasses: ClassMaterials) {
    this.#db = db;
    this.#ofClasses = ofClasses;
  }

  /** @throws AppError `not-found` for an unknown lesson, `exists-already`, `too-many-materials` */
  async create(lessonId: string, { id, name }: Pick<Material, 'id' | 'name'>): Promise<Material> {
    await this.#db.transaction(async (trx) => {
      const lesson = await trx('lessons').where({ id: lessonId, removed_at: null }).first();
      if (!lesson) throw new AppError('not-found', `lesson ${lessonId}`);
      // Bytes of both come in under their names.
      const taken =
        (await trx('materials').where({ id }).first()) ??
        (await trx('tracks').where({ id }).first());
      if (taken) throw new AppError('exists-already', `material ${id}`);
      const others = trx('materials').where({ lesson_id: lessonId, removed_at: null });
      if ((await countOf(others)) >= MOST_MATERIALS) throw new AppError('too-many-materials');
      await trx('materials').insert({
        ...{ id, lesson_id: lessonId, name, state: 'coming' },
        brought_at: new Date().toISOString(),
      });
    });
    return this.get(id);
  }

  async #row(id: string): Promise<MaterialRow> {
    const row = await this.#db('materials').where({ id }).first<MaterialRow | undefined>();
    if (!row) throw new AppError('not-found', `material ${id}`);
    return row;
  }

  /** @throws AppError `not-found` */
  async get(id: string): Promise<Material> {
    return toMaterial(await this.#row(id));
  }

  /** A material that comes with a whole lesson: its file is here, and it is to be read. */
  async bringIn(
    lessonId: string,
    { id, name, content, bytes, broughtAt }: Material,
  ): Promise<void> {
    await this.#db('materials').insert({
      ...{ id, lesson_id: lessonId, name, state: 'reading', content, bytes },
      brought_at: broughtAt,
    });
  }

  /** Whether bytes of a material of this name are waited for. */
  async isComing(id: string): Promise<boolean> {
    return (await this.#db('materials').where({ id, state: 'coming' }).first()) !== undefined;
  }

  async ofLesson(lessonId: string): Promise<Material[]> {
    const rows = await this.#db('materials')
      .where({ lesson_id: lessonId, removed_at: null })
      .orderBy(['brought_at', 'id'])
      .select<ListedRow[]>(LISTED);
    return rows.map(toMaterial);
  }

  /** What a stopped server left unread. */
  async unread(): Promise<string[]> {
    return this.#db('materials').where({ state: 'reading' }).pluck('id');
  }

  async came(id: string, content: string, bytes: number): Promise<void> {
    await this.#db('materials')
      .where({ id })
      .update({ state: 'reading', problem: null, content, bytes });
  }

  /** To be tried again. */
  async again(id: string): Promise<void> {
    await this.#db('materials').where({ id }).update({ state: 'reading', problem: null });
  }

  async ready(id: string, { aspects, dark }: Pick<Material, 'aspects' | 'dark'>): Promise<void> {
    await this.#db('materials')
      .where({ id })
      .update({ state: 'ready', problem: null, aspects: JSON.stringify(aspects), dark });
  }

  async unusable(id: string, problem: ErrorCode): Promise<void> {
    await this.#db('materials').where({ id }).update({ state: 'unusable', problem });
  }

  /** What its pages say, in order; none before it was read. */
  async words(id: string): Promise<string[]> {
    return JSON.parse((await this.#row(id)).words) as string[];
  }

  async keepWords(id: string, words: readonly string[]): Promise<void> {
    await this.#db('materials')
      .where({ id })
      .update({ words: JSON.stringify(words) });
  }

  /**
   * Says what a picture shows: a material of one page that says nothing itself.
   *
   * @throws AppError `not-found`; `not-ready` for any other
   */
  async describe(id: string, words: string): Promise<void> {
    const { state, aspects } = await this.get(id);
    if (state !== 'ready' || aspects.length !== 1) throw new AppError('not-ready', id);
    await this.keepWords(id, [words]);
  }

  /** What is ready in any lesson that isn't thrown away, latest first, each content once. */
  async kept(): Promise<KeptRow[]> {
    const rows = await this.#db('materials')
      .where({ state: 'ready', removed_at: null })
      .whereIn('lesson_id', this.#db('lessons').where({ removed_at: null }).select('id'))
      .orderBy('brought_at', 'desc')
      .select<ListedRow[]>(LISTED);
    const found = new Map<string, KeptRow>();
    for (const { id, name, content, aspects, lesson_id: lessonId } of rows) {
      if (!content || found.has(content)) continue;
      const pages = (JSON.parse(aspects) as number[]).length;
      found.set(content, { id, name, content, pages, lessonId });
    }
    return [...found.values()];
  }

  /**
   * Brings into a lesson what another has, or what a class keeps.
   *
   * @throws AppError as {@link create}; `not-ready`
   */
  async bringAgain(lessonId: string, id: string, of: string): Promise<Material> {
    const row = await this.#db('materials').where({ id: of }).first<MaterialRow | undefined>();
    if (row && row.state !== 'ready') throw new AppError('not-ready', `material ${of}`);
    const { name, content, aspects, dark, words, bytes } =
      row ?? (await this.#ofClasses.common(of));
    await this.create(lessonId, { id, name: String(name) });
    await this.#db('materials')
      .where({ id })
      .update({ state: 'ready', content, aspects, dark, words, bytes });
    return this.get(id);
  }

  /** Takes it out of its lesson's list, or brings it back. @throws AppError `not-found` */
  async remove(id: string, removed: boolean): Promise<void> {
    const at = removed ? new Date().toISOString() : null;
    const changed = await this.#db('materials').where({ id }).update({ removed_at: at });
    if (changed === 0) throw new AppError('not-found', `material ${id}`);
  }

  /** Whether any lesson or class has a content, taken out of its list or not. */
  async isKept(content: string): Promise<boolean> {
    const inLesson = await this.#db('materials').where({ content }).first();
    return inLesson !== undefined || this.#ofClasses.has(content);
  }

  /** Gives a lesson what another has. @param newId names each */
  async copy(fromLesson: string, toLesson: string, newId: () => string): Promise<void> {
    const rows = await this.#db('materials')
      .where({ lesson_id: fromLesson, removed_at: null })
      .whereNot({ state: 'coming' })
      .select<MaterialRow[]>('*');
    for (const row of rows)
      await this.#db('materials').insert({ ...row, id: newId(), lesson_id: toLesson });
  }
}
