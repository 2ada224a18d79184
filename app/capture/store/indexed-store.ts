import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import {
  isFull,
  keptTakeSchema,
  StoreFullError,
  type KeptTake,
  type PieceFacts,
  type PieceStore,
} from './piece-store';

interface Schema extends DBSchema {
  takes: { key: string; value: unknown };
  /** Take, track, place and size: what a piece is can be told without reading it. */
  pieces: { key: [string, string, number, number]; value: Uint8Array<ArrayBuffer> };
}

/** Room set aside stands among the pieces, as one of a take and a track without names. */
const NOBODY = '';

const ofTrack = (takeId: string, trackId: string) =>
  IDBKeyRange.bound([takeId, trackId], [takeId, trackId, []]);

/** The same store in IndexedDB, for browsers without files of their own. */
export class IndexedStore implements PieceStore {
  readonly #db: IDBPDatabase<Schema>;

  private constructor(db: IDBPDatabase<Schema>) {
    this.#db = db;
  }

  static async open(): Promise<IndexedStore> {
    const db = await openDB<Schema>('under-chalk takes', 1, {
      upgrade(fresh) {
        fresh.createObjectStore('takes');
        fresh.createObjectStore('pieces');
      },
    });
    return new IndexedStore(db);
  }

  async #put<S extends 'takes' | 'pieces'>(
    store: S,
    key: Schema[S]['key'],
    value: Schema[S]['value'],
  ): Promise<void> {
    try {
      // Strict: told to be done only when it has been forced to the disk (IndexedDB 3.0 §2.7.1).
      const change = this.#db.transaction(store, 'readwrite', { durability: 'strict' });
      await Promise.all([change.store.put(value, key), change.done]);
    } catch (error) {
      throw isFull(error) ? new StoreFullError(error) : error;
    }
  }

  keep(take: KeptTake): Promise<void> {
    return this.#put('takes', take.take.id, take);
  }

  async take(takeId: string): Promise<KeptTake | null> {
    return keptTakeSchema.safeParse(await this.#db.get('takes', takeId)).data ?? null;
  }

  async takes(): Promise<KeptTake[]> {
    const found = (await this.#db.getAll('takes')).map((kept) => keptTakeSchema.safeParse(kept));
    return found
      .flatMap((kept) => (kept.success ? [kept.data] : []))
      .sort((a, b) => (a.startedAt < b.startedAt ? -1 : 1));
  }

  async forget(takeId: string): Promise<void> {
    await this.#db.delete('takes', takeId);
    await this.#db.delete('pieces', IDBKeyRange.bound([takeId], [takeId, []]));
  }

  write(
    takeId: string,
    trackId: string,
    from: number,
    bytes: Uint8Array<ArrayBuffer>,
  ): Promise<void> {
    return this.#put('pieces', [takeId, trackId, from, bytes.length], bytes);
  }

  async reserve(bytes: number): Promise<void> {
    const key: [string, string, number, number] = [NOBODY, NOBODY, 0, bytes];
    if ((await this.#db.getKey('pieces', key)) !== undefined) return;
    await this.#put('pieces', key, new Uint8Array(bytes));
  }

  async useReserve(): Promise<void> {
    await this.#db.delete('pieces', ofTrack(NOBODY, NOBODY));
  }

  async pieces(takeId: string, trackId: string): Promise<PieceFacts[]> {
    const keys = await this.#db.getAllKeys('pieces', ofTrack(takeId, trackId));
    return keys.map(([, , from, size]) => ({ from, size }));
  }

  async read(takeId: string, trackId: string, piece: PieceFacts): Promise<Uint8Array<ArrayBuffer>> {
    const bytes = await this.#db.get('pieces', [takeId, trackId, piece.from, piece.size]);
    if (!bytes) throw new Error(`no piece of ${trackId} at ${piece.from}`);
    return bytes;
  }

  async free(takeId: string, trackId: string, pieces: readonly PieceFacts[]): Promise<void> {
    const change = this.#db.transaction('pieces', 'readwrite');
    await Promise.all([
      ...pieces.map(({ from, size }) => change.store.delete([takeId, trackId, from, size])),
      change.done,
    ]);
  }
}
