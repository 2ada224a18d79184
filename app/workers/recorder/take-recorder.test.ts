import type { FromRecorder } from '../../capture/recorder-messages';
import type { KeptTake, PieceStore } from '../../capture/store/piece-store';
import { TakeRecorder } from './take-recorder';

/** A store that remembers what it was told of takes, and can be full. */
const storing = () => {
  const kept: KeptTake[] = [];
  let full = false;
  const store = {
    reserve: async () => undefined,
    useReserve: async () => undefined,
    keep: async (take: KeptTake) => {
      if (full) throw new Error('full');
      kept.push(take);
    },
  } as unknown as PieceStore;
  return {
    kept,
    store,
    fill: () => {
      full = true;
    },
  };
};

const take = {
  lessonId: 'lesson-one',
  lessonTitle: 'Tide heights',
  startedAt: '2026-11-26T22:00:00.000Z',
  recordedUs: 0,
  stopped: false,
  take: { id: 'take-one', source: 'sound', practice: true, tracks: [] },
} as unknown as KeptTake;

const recorder = (store: PieceStore | null) => {
  const told: FromRecorder[] = [];
  const made = new TakeRecorder(
    (message) => told.push(message),
    () => Promise.resolve(store),
  );
  made.open([]);
  return { made, told, names: () => told.map(({ is }) => is) };
};

const asked: string[] = [];
let answer: () => Promise<unknown>;
beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['performance'] });
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
  asked.length = 0;
  answer = () => Promise.resolve({ ok: true, status: 200, json: async () => ({}) });
  globalThis.fetch = ((url: string) => {
    asked.push(new URL(url).pathname);
    return answer();
  }) as typeof fetch;
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

it('notes a take before its first piece, tells the server of it, and ends with all of it sent', async () => {
  const { kept, store } = storing();
  const { made, told, names } = recorder(store);
  await made.start(take, 'http://under.chalk');
  expect(kept.map(({ stopped }) => stopped)).toEqual([false]);
  await jest.advanceTimersByTimeAsync(6_000);
  expect(asked[0]).toBe('/api/lessons/lesson-one/takes');
  expect(asked).toContain('/api/takes/take-one/heartbeat');
  expect(names().filter((name) => name === 'figures').length).toBeGreaterThan(20);
  await made.stop();
  expect(kept.at(-1)!.stopped).toBe(true);
  expect(told.at(-1)).toMatchObject({ is: 'all-sent', packets: {} });
  expect(names()).toContain('last-seconds');
  const before = told.length;
  await jest.advanceTimersByTimeAsync(6_000);
  expect(told).toHaveLength(before);
});

it('tells that it is at ease while it leaves nothing out', async () => {
  const { made } = recorder(storing().store);
  const bodies: unknown[] = [];
  const before = globalThis.fetch;
  globalThis.fetch = ((url: string, { body }: RequestInit = {}) => {
    if (url.endsWith('/heartbeat')) bodies.push(JSON.parse(body as string));
    return before(url);
  }) as typeof fetch;
  await made.start(take, 'http://under.chalk');
  await jest.advanceTimersByTimeAsync(5_000);
  expect(bodies).toEqual([{ atEase: true }]);
});

it('counts no time while it is paused', async () => {
  const { made, told } = recorder(storing().store);
  await made.start(take, 'http://under.chalk');
  made.pause();
  const elapsed = () =>
    told.flatMap((message) => (message.is === 'figures' ? message.figures.elapsedUs : [])).at(-1)!;
  await jest.advanceTimersByTimeAsync(400);
  const then = elapsed();
  await jest.advanceTimersByTimeAsync(2_000);
  expect(elapsed()).toBe(then);
  made.resume();
  await made.stop();
});

it('keeps a take here that the server can’t be told of, and doesn’t wait for ever', async () => {
  answer = () => Promise.reject(new TypeError('Failed to fetch'));
  const { made, told, names } = recorder(storing().store);
  await made.start(take, 'http://under.chalk');
  await jest.advanceTimersByTimeAsync(2_000);
  const figures = told.findLast((message) => message.is === 'figures');
  expect(figures).toMatchObject({ figures: { halted: 'away', keptHere: true } });
  const stopped = made.stop();
  await jest.advanceTimersByTimeAsync(10_000);
  await stopped;
  expect(names().at(-1)).toBe('kept-here');
});

it('says once that the browser’s store is full, and that nothing is kept there', async () => {
  const { store, fill } = storing();
  fill();
  const { made, told, names } = recorder(store);
  await made.start(take, 'http://under.chalk');
  await jest.advanceTimersByTimeAsync(1_000);
  expect(names().filter((name) => name === 'store-full')).toHaveLength(1);
  const figures = told.findLast((message) => message.is === 'figures');
  expect(figures).toMatchObject({ figures: { keptHere: false } });
  await made.stop();
});
