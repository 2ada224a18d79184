import type { TakeStore } from '../../store/take-store';
import { calmOf } from './calm';

/** Takes that are recorded for so many questions. */
const takesFor = (questions: number) => {
  let asked = 0;
  const inState = () => Promise.resolve(asked++ < questions ? ['take-one'] : []);
  return { takes: { inState } as unknown as TakeStore, asked: () => asked };
};

it('waits while something is recorded, and no longer', async () => {
  const none = takesFor(0);
  await calmOf(none.takes)(new AbortController().signal);
  expect(none.asked()).toBe(1);
  const began = Date.now();
  await calmOf(takesFor(1).takes)(new AbortController().signal);
  expect(Date.now() - began).toBeGreaterThan(1_900);
});

it('ends with the server, without a complaint', async () => {
  const stop = new AbortController();
  const waits = calmOf(takesFor(1_000).takes)(stop.signal);
  setTimeout(() => stop.abort(new Error('the server is stopping')), 50);
  await waits;
});
