import { takeOfLength } from '@under-chalk/core/testing/lessons';
import type { PieceStore } from '../store/piece-store';
import { finishTake } from './finish-take';

const forgotten: string[] = [];
const store = {
  forget: (takeId: string) => Promise.resolve(void forgotten.push(takeId)),
} as unknown as PieceStore;

/** What the server answers to the stop: whether all of the take is there. */
const answers = (cutShort: boolean) =>
  Object.assign(globalThis, {
    fetch: async () => ({
      ok: true,
      json: async () => ({ ...takeOfLength('take-one', 1), state: 'processing', cutShort }),
    }),
  });

beforeEach(() => {
  forgotten.length = 0;
});

it('lets go of what is here when the server has all of it', async () => {
  answers(false);
  await finishTake(store, 'take-one', false);
  expect(forgotten).toEqual(['take-one']);
});

it('keeps it when the server says that it is not whole', async () => {
  answers(true);
  await expect(finishTake(store, 'take-one', false)).rejects.toThrow('not whole');
  expect(forgotten).toEqual([]);
});

it('lets go of a take that was torn off when all that there was is there', async () => {
  answers(true);
  await finishTake(store, 'take-one', true);
  expect(forgotten).toEqual(['take-one']);
});
