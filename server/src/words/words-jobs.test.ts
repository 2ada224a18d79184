import { AppError } from '@under-chalk/core/errors/errors';
import { keptIn } from '../testing/test-server';
import { WordsJobs } from './words-jobs';

const until = async (met: () => boolean) => {
  while (!met()) await new Promise((resolve) => setTimeout(resolve, 5));
};

it('does one after another, tells how each came out, and lets go of the oldest that are over', async () => {
  const logged: string[] = [];
  const jobs = new WordsJobs(keptIn(logged));
  let atOnce = 0;
  let most = 0;
  const ids: string[] = [];
  for (let lesson = 0; lesson < 60; lesson++) {
    const { id } = await jobs.begin(`lesson-${lesson + 100}`, async () => {
      most = Math.max(most, ++atOnce);
      await Promise.resolve();
      atOnce--;
      if (lesson === 58) throw new AppError('nothing-to-time');
      if (lesson === 59) throw new Error('something else');
      return {};
    });
    ids.push(id);
    await until(() => !['waiting', 'working'].includes(jobs.stateOf(id).state));
  }
  expect(most).toBe(1);
  expect(() => jobs.stateOf(ids[0]!)).toThrow('not-found');
  expect(ids.slice(57).map((id) => jobs.stateOf(id))).toMatchObject([
    { state: 'done', done: 1 },
    { state: 'failed', problem: 'nothing-to-time' },
    { state: 'failed', problem: 'unexpected' },
  ]);
  // What nobody can act on is written down; what is told is not.
  expect(logged).toHaveLength(1);
  await jobs.close();
});

it('a lesson that is listened to is listened to anew, and closing ends all', async () => {
  const jobs = new WordsJobs(keptIn([]));
  const listen = (_: unknown, signal: AbortSignal) =>
    new Promise<never>((_resolve, reject) =>
      signal.addEventListener('abort', () => reject(signal.reason as Error)),
    );
  const first = await jobs.begin('lesson-one', listen);
  await until(() => jobs.stateOf(first.id).state === 'working');
  const second = await jobs.begin('lesson-one', listen);
  await until(() => jobs.stateOf(first.id).state === 'called-off');
  await until(() => jobs.stateOf(second.id).state === 'working');
  expect((await jobs.callOff(second.id)).state).toBe('called-off');
  const third = await jobs.begin('lesson-two', listen);
  await jobs.close();
  expect(jobs.stateOf(third.id).state).toBe('called-off');
});
