/** @jest-environment node */
import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { IndexedStore } from './indexed-store';
import { StoreFullError, type KeptTake, type PieceStore } from './piece-store';

const bytes = (...values: number[]) => new Uint8Array(values);
const keptOf = (id: string, change: Partial<KeptTake> = {}): KeptTake => ({
  lessonId: 'lesson-one',
  lessonTitle: 'Tide heights',
  take: { id, source: 'screen', practice: false, tracks: [{ id: `${id}-voice`, kind: 'voice' }] },
  startedAt: '2026-11-23T21:40:00.000Z',
  recordedUs: 0,
  stopped: false,
  ...change,
});

let store: PieceStore;
beforeEach(async () => {
  globalThis.indexedDB = new IDBFactory();
  store = await IndexedStore.open();
});

it('keeps pieces in the order of the track, whatever order they came in', async () => {
  await store.write('take-one', 'track-one', 1000, bytes(4, 5));
  await store.write('take-one', 'track-one', 3, bytes(3));
  await store.write('take-one', 'track-one', 0, bytes(0, 1, 2));
  await store.write('take-one', 'track-two', 0, bytes(9));
  const pieces = await store.pieces('take-one', 'track-one');
  expect(pieces).toEqual([
    { from: 0, size: 3 },
    { from: 3, size: 1 },
    { from: 1000, size: 2 },
  ]);
  expect([...(await store.read('take-one', 'track-one', pieces[2]!))]).toEqual([4, 5]);
});

it('lets go of what was sent, and of nothing else', async () => {
  await store.write('take-one', 'track-one', 0, bytes(1));
  await store.write('take-one', 'track-one', 1, bytes(2));
  const [first] = await store.pieces('take-one', 'track-one');
  await store.free('take-one', 'track-one', [first!]);
  await store.free('take-one', 'track-one', [first!]);
  expect(await store.pieces('take-one', 'track-one')).toEqual([{ from: 1, size: 1 }]);
});

it('tells what takes there are, as they were last noted, oldest first', async () => {
  await store.keep(keptOf('take-two', { startedAt: '2026-11-23T22:00:00.000Z' }));
  await store.keep(keptOf('take-one'));
  await store.keep(keptOf('take-one', { recordedUs: 192_000_000, stopped: true }));
  expect(
    (await store.takes()).map(({ take, recordedUs, stopped }) => [take.id, recordedUs, stopped]),
  ).toEqual([
    ['take-one', 192_000_000, true],
    ['take-two', 0, false],
  ]);
  expect(await store.take('take-one')).toMatchObject({ recordedUs: 192_000_000 });
  expect(await store.take('take-three')).toBeNull();
});

it('forgets a take with all its pieces', async () => {
  await store.keep(keptOf('take-one'));
  await store.write('take-one', 'take-one-voice', 0, bytes(1));
  await store.keep(keptOf('take-two'));
  await store.forget('take-one');
  expect((await store.takes()).map(({ take }) => take.id)).toEqual(['take-two']);
  expect(await store.pieces('take-one', 'take-one-voice')).toEqual([]);
});

it('sets room aside once, gives it back when it is wanted, and keeps it from all takes', async () => {
  const database = () =>
    new Promise<number>((resolve, reject) => {
      const opening = indexedDB.open('under-chalk takes');
      opening.onerror = () => reject(opening.error);
      opening.onsuccess = () => {
        const all = opening.result.transaction('pieces').objectStore('pieces').getAll();
        all.onsuccess = () => {
          const held = (all.result as Uint8Array[]).reduce((sum, piece) => sum + piece.length, 0);
          opening.result.close();
          resolve(held);
        };
      };
    });
  await store.keep(keptOf('take-one'));
  await store.write('take-one', 'take-one-voice', 0, bytes(1, 2));
  await store.reserve(5_000);
  await store.reserve(5_000);
  expect(await database()).toBe(5_002);
  expect(await store.pieces('take-one', 'take-one-voice')).toHaveLength(1);
  expect(await store.takes()).toHaveLength(1);
  await store.forget('take-one');
  expect(await database()).toBe(5_000);
  await store.useReserve();
  await store.useReserve();
  expect(await database()).toBe(0);
});

it('says so when the browser has no more room, and nothing of the piece stays', async () => {
  const put = jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
  });
  await expect(store.write('take-one', 'track-one', 0, bytes(1))).rejects.toBeInstanceOf(
    StoreFullError,
  );
  put.mockRestore();
  expect(await store.pieces('take-one', 'track-one')).toEqual([]);
});
