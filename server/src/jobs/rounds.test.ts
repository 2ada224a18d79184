import { keptIn } from '../testing/test-server';
import { Rounds } from './rounds';

const logged: string[] = [];
const passed = () => new Promise<void>((resolve) => setImmediate(resolve));

beforeEach(() => {
  logged.length = 0;
  jest.useFakeTimers({ doNotFake: ['setImmediate'] });
});
afterEach(() => jest.useRealTimers());

it('does a round again after one that failed, later each time, and forgets its failures when one succeeds', async () => {
  const outcomes = [false, false, true, false];
  const at: number[] = [];
  const began = Date.now();
  const rounds = new Rounds(
    () => {
      at.push(Math.round((Date.now() - began) / 1_000));
      const isFine = outcomes.shift();
      return isFine === false
        ? Promise.reject(new Error('no room'))
        : Promise.resolve(isFine ? Date.now() + 5_000 : null);
    },
    'letters can’t be sent',
    keptIn(logged),
  );
  rounds.begin();
  for (let second = 0; second < 120; second++) {
    await passed();
    jest.advanceTimersByTime(1_000);
  }
  await passed();
  // 10 s after the first failure, 60 s after the second, 5 s later as it was told to, and 10 s after the next failure.
  expect(at).toEqual([0, 10, 70, 75, 85]);
  expect(logged).toHaveLength(3);
  await rounds.close();
});
