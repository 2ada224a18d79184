import { takeOfLength } from '@under-chalk/core/testing/lessons';
import type { PointerState } from '@under-chalk/core/pointer/found';
import { SeenPointers } from './seen-pointers';

const FOUND: PointerState = {
  is: 'found',
  found: {
    ...{ version: 1, sureShare: 0.5, presses: [{ atUs: 2_000, x: 0.5, y: 0.2 }] },
    runs: [{ moves: [{ atUs: 0, x: 0.1, y: 0.1, certainty: 0.9 }], untilUs: 5_000_000 }],
  },
};
const screen = { ...takeOfLength('take-screen', 10_000_000), source: 'screen' as const };

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const ingested = () => jest.advanceTimersByTimeAsync(0);

test('it is asked again while the server looks, and no more when it has found', async () => {
  const answers: PointerState[] = [{ is: 'looking', share: 0.4 }, FOUND];
  const ask = jest.fn(async () => answers.shift()!);
  const onFound = jest.fn();
  const pointers = new SeenPointers(onFound, ask);
  pointers.fetch([screen]);
  pointers.fetch([screen]);
  await ingested();
  expect(pointers.states.view().get(screen.id)).toEqual({ is: 'looking', share: 0.4 });
  expect(pointers.of(screen.id)).toBeNull();
  await jest.advanceTimersByTimeAsync(3_000);
  expect(pointers.of(screen.id)).toMatchObject({ isSeen: true, presses: [{ untilUs: 122_000 }] });
  expect(onFound).toHaveBeenCalledTimes(1);
  await jest.advanceTimersByTimeAsync(20_000);
  expect(ask).toHaveBeenCalledTimes(2);
});

test('a failure is tried again, a take without a screen is not asked about, and nothing after closing', async () => {
  const ask = jest.fn(async (): Promise<PointerState> => {
    throw new Error('no line');
  });
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const pointers = new SeenPointers(() => undefined, ask);
  pointers.fetch([screen, { ...screen, id: 'take-camera', source: 'camera' }]);
  await jest.advanceTimersByTimeAsync(3_000);
  expect(ask).toHaveBeenCalledTimes(2);
  pointers.close();
  await jest.advanceTimersByTimeAsync(20_000);
  expect(ask).toHaveBeenCalledTimes(2);
});

test('a take that was made ready anew is looked at anew', async () => {
  const ask = jest.fn(async () => FOUND);
  const pointers = new SeenPointers(() => undefined, ask);
  pointers.fetch([screen]);
  await ingested();
  const tracks = screen.tracks.map((track) => ({ ...track, digest: 'other' }));
  pointers.fetch([{ ...screen, tracks }]);
  await ingested();
  expect(ask).toHaveBeenCalledTimes(2);
});
