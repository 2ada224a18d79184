import { entrySchema } from '@under-chalk/core/edit/entry';
import { idSchema } from '@under-chalk/core/lesson/take';
import { openDB, type DBSchema, type IDBPDatabase, type IDBPObjectStore } from 'idb';
import * as z from 'zod';

const waitingSchema = z.object({
  entry: entrySchema,
  /** The revision that was on the screen when it was made. */
  seen: z.number().int().min(0),
  /** It was not put down: another decided otherwise, and the teacher has not chosen yet. */
  held: z.boolean(),
  /** Its place among all that wait, also those of other tabs: when it was made, µs since 1970. */
  order: z.number(),
});
/** An edit that the server has not answered for. */
export type Waiting = Readonly<z.infer<typeof waitingSchema>>;

const keptSchema = waitingSchema.extend({ lessonId: idSchema, tab: z.string() });
type Kept = z.infer<typeof keptSchema>;

interface Schema extends DBSchema {
  waiting: { key: string; value: unknown; indexes: { lesson: string } };
}

type Store = IDBPObjectStore<Schema, ['waiting'], 'waiting', 'readwrite'>;

const NAME = 'under-chalk edits';
const lockOf = (tab: string) => `${NAME} ${tab}`;

const open = (): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>(NAME, 1, {
    upgrade: (fresh) => fresh.createObjectStore('waiting').createIndex('lesson', 'lessonId'),
  });

/**
 * Edits that the server has not answered for, kept in the browser under the tab that made them: what was typed
 * outlives the tab. A tab holds a lock on its name, so that another can tell those of a closed tab from those
 * that are on their way.
 */
export class WaitingEdits {
  readonly #lessonId: string;
  readonly #tab: string;
  #db: Promise<IDBPDatabase<Schema> | null> | null = null;

  constructor(lessonId: string, tab: string) {
    this.#lessonId = lessonId;
    this.#tab = tab;
  }

  /** Null where the browser has no store (a private window, or it is full): the tab still holds them. */
  #opened(): Promise<IDBPDatabase<Schema> | null> {
    this.#db ??= open().catch(() => null);
    return this.#db;
  }

  /** Opens the store ahead of the first edit, so that it goes there without a wait. */
  ready(): void {
    void this.#opened();
  }

  /** Keeps edits; those that are there already are written anew. */
  async keep(edits: readonly Waiting[]): Promise<void> {
    const kept = edits.map((one): Kept => ({
      ...one,
      lessonId: this.#lessonId,
      tab: this.#tab,
    }));
    await this.#write((store) => kept.map((one) => store.put(one, one.entry.id)));
  }

  async letGo(ids: readonly string[]): Promise<void> {
    await this.#write((store) => ids.map((id) => store.delete(id)));
  }

  /** Takes over the edits of the lesson that closed tabs left behind, in the order in which they were made. */
  async adopt(): Promise<Waiting[]> {
    if (!('locks' in navigator)) return [];
    const { held = [] } = await navigator.locks.query();
    const alive = new Set(held.map((lock) => lock.name));
    const adopted: Kept[] = [];
    const takeOver = async (store: Store) => {
      for (const plain of await store.index('lesson').getAll(this.#lessonId)) {
        const kept = keptSchema.safeParse(plain).data;
        // What can't be read is left where it is, for a version that can.
        if (!kept || alive.has(lockOf(kept.tab))) continue;
        adopted.push(kept);
        await store.put({ ...kept, tab: this.#tab }, kept.entry.id);
      }
    };
    await this.#write((store) => [takeOver(store)]);
    return adopted
      .map((kept) => waitingSchema.parse(kept))
      .sort((one, other) => one.order - other.order);
  }

  async #write(work: (store: Store) => Promise<unknown>[]): Promise<void> {
    const db = await this.#opened();
    if (!db) return;
    try {
      const change = db.transaction('waiting', 'readwrite');
      await Promise.all([...work(change.store), change.done]);
    } catch (error) {
      console.error('edits on their way can’t be kept in this browser', error);
    }
  }
}

let latest = 0;

/** The order of what is made now; later than all that was made here before. */
export const nextOrder = (): number => {
  latest = Math.max(latest + 1, Date.now() * 1_000);
  return latest;
};

/** Holds a tab's name until it closes. @returns lets go of it */
export const holdTab = (tab: string): (() => void) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  if ('locks' in navigator) void navigator.locks.request(lockOf(tab), () => held);
  return () => release();
};
