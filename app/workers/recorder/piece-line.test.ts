/** @jest-environment node */
import 'fake-indexeddb/auto';
import { StoredTrack } from '../../capture/sending/stored-track';
import { IndexedStore } from '../../capture/store/indexed-store';
import { StoreFullError, type PieceStore } from '../../capture/store/piece-store';
import { PieceLine, type StoreTrouble } from './piece-line';

/** A piece whose every byte tells its place. */
const piece = (from: number, size: number) =>
  Uint8Array.from({ length: size }, (_, index) => (from + index) % 251);
/** jsdom's Blob can't give its bytes; Node's can. */
const sizeOf = (slice: { value: Blob | null }) => slice.value?.size ?? 0;

let store: PieceStore;
let time = 0;
let takeId: string;
beforeEach(async () => {
  store = await IndexedStore.open();
  takeId = `take-number-${time++}`;
});
const lineOf = (
  told: (trouble: StoreTrouble) => void = () => undefined,
  kept: PieceStore | null = store,
) => new PieceLine(takeId, 'track-one', kept, told);

it('writes a piece to the store before it can be sent', async () => {
  const line = lineOf();
  const waiting = line.slice(0, 100);
  await line.write(piece(0, 10));
  expect(await store.pieces(takeId, 'track-one')).toEqual([{ from: 0, size: 10 }]);
  expect(sizeOf(await waiting)).toBe(10);
  expect(line.safe).toBe(true);
});

it('gives what there is, waits for more, and says where the track ends', async () => {
  const line = lineOf();
  await line.write(piece(0, 10));
  await line.write(piece(10, 10));
  expect(await line.slice(5, 12)).toMatchObject({ done: false, value: { size: 7 } });
  const last = line.slice(20, 100);
  line.close();
  expect(await last).toEqual({ value: null, done: true });
  expect(await line.slice(12, 100)).toMatchObject({ done: true, value: { size: 8 } });
});

it('lets go, in the store too, of what the server has on its disk', async () => {
  const line = lineOf();
  await line.write(piece(0, 10));
  await line.write(piece(10, 10));
  expect(line.unsentBytes).toBe(20);
  line.accepted(15);
  expect(line.unsentBytes).toBe(5);
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(await store.pieces(takeId, 'track-one')).toEqual([{ from: 10, size: 10 }]);
  line.accepted(20);
  expect(line.unsentBytes).toBe(0);
});

it('goes on in memory when the store is full, and tells it once', async () => {
  const told: StoreTrouble[] = [];
  const line = lineOf((trouble) => told.push(trouble));
  await line.write(piece(0, 10));
  const write = jest.spyOn(store, 'write').mockRejectedValue(new StoreFullError('no room'));
  await line.write(piece(10, 10));
  await line.write(piece(20, 10));
  expect(told).toEqual(['ending', 'full']);
  // Once as it was, once in the room set aside, and then no more.
  expect(write).toHaveBeenCalledTimes(2);
  expect(line.safe).toBe(false);
  expect(sizeOf(await line.slice(0, 100))).toBe(30);
  line.accepted(30);
  expect(line.safe).toBe(true);
});

it('writes the end of a take into the room that was set aside, and says that it must end', async () => {
  const told: StoreTrouble[] = [];
  const line = lineOf((trouble) => told.push(trouble));
  await store.reserve(1_000);
  const free = jest.spyOn(store, 'useReserve');
  jest.spyOn(store, 'write').mockRejectedValueOnce(new StoreFullError('no room'));
  await line.write(piece(0, 10));
  await line.write(piece(10, 10));
  expect(told).toEqual(['ending']);
  expect(free).toHaveBeenCalledTimes(1);
  expect(line.safe).toBe(true);
  expect(await store.pieces(takeId, 'track-one')).toHaveLength(2);
});

it('tries a store again that failed for a moment', async () => {
  const told: StoreTrouble[] = [];
  const line = lineOf((trouble) => told.push(trouble));
  const write = jest.spyOn(store, 'write').mockRejectedValueOnce(new Error('busy'));
  await line.write(piece(0, 10));
  expect(write).toHaveBeenCalledTimes(2);
  expect(told).toEqual([]);
  expect(line.safe).toBe(true);
  write.mockRejectedValue(new Error('broken'));
  await line.write(piece(10, 10));
  expect(told).toEqual(['broken']);
});

it('goes on in memory, and sends, when the store gives no answer at all', async () => {
  const told: StoreTrouble[] = [];
  const line = lineOf((trouble) => told.push(trouble));
  const write = jest
    .spyOn(store, 'write')
    .mockRejectedValue(new DOMException('no answer', 'TimeoutError'));
  await line.write(piece(0, 10));
  await line.write(piece(10, 10));
  expect(write).toHaveBeenCalledTimes(1);
  expect(told).toEqual(['broken']);
  expect(sizeOf(await line.slice(0, 100))).toBe(20);
});

it('records without any store, straight to the server', async () => {
  const line = lineOf(() => undefined, null);
  await line.write(piece(0, 10));
  expect(sizeOf(await line.slice(0, 100))).toBe(10);
  expect(line.safe).toBe(false);
});

it('keeps two hours that can’t be sent out of memory, and gives them all when the way is free', async () => {
  // A piece a second for two hours, as large as those of a small camera.
  const held = new Map<number, Uint8Array<ArrayBuffer>>();
  let reads = 0;
  const quick = {
    write: async (_take: string, _track: string, from: number, bytes: Uint8Array<ArrayBuffer>) =>
      void held.set(from, bytes),
    read: async (_take: string, _track: string, { from }: { from: number }) => {
      reads++;
      return held.get(from)!;
    },
    free: async (_take: string, _track: string, pieces: readonly { from: number }[]) =>
      pieces.forEach(({ from }) => held.delete(from)),
  } as unknown as PieceStore;
  const line = lineOf(() => undefined, quick);
  const PIECES = 7_200;
  const SIZE = 20_000;
  const bytes = new Uint8Array(SIZE);
  for (let second = 0; second < PIECES; second++) await line.write(bytes);
  line.close();
  expect(line.unsentBytes).toBe(PIECES * SIZE);
  let at = 0;
  for (;;) {
    const slice = await line.slice(at, at + 4_000_000);
    at += sizeOf(slice);
    line.accepted(at);
    if (slice.done) break;
  }
  expect(at).toBe(PIECES * SIZE);
  // Nearly all came from the store: only the last few were still in memory.
  expect(reads).toBeGreaterThan(PIECES * 0.9);
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(held.size).toBe(0);
}, 30_000);

describe('a track of which nothing more will come', () => {
  const stored = (accepted: (bytes: number) => void = () => undefined) =>
    StoredTrack.open(store, takeId, 'track-one', accepted);
  beforeEach(async () => {
    // The first ten bytes are on the server already.
    for (const from of [10, 20, 30]) await store.write(takeId, 'track-one', from, piece(from, 10));
  });

  it('is given from where the server stands, in the middle of a piece too', async () => {
    const track = await stored();
    expect(track.size).toBe(30);
    expect(await track.slice(10, 100)).toMatchObject({ done: true, value: { size: 30 } });
    expect(await track.slice(15, 22)).toMatchObject({ done: false, value: { size: 7 } });
    expect(await track.slice(40, 100)).toEqual({ value: null, done: true });
  });
  it('is let go of piece by piece', async () => {
    const told: number[] = [];
    const track = await stored((bytes) => told.push(bytes));
    track.accepted(25);
    track.accepted(40);
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(told).toEqual([10, 30]);
    expect(await store.pieces(takeId, 'track-one')).toEqual([]);
  });
  it('is not sent with a hole in it', async () => {
    const track = await stored();
    await expect(track.slice(4, 100)).rejects.toThrow('what follows is not here');
  });
  it('of nothing at all is at its end', async () => {
    takeId = 'take-of-nothing';
    expect(await (await stored()).slice(0, 100)).toEqual({ value: null, done: true });
  });
});
