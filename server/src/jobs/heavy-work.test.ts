import { HeavyWork, type Purpose } from './heavy-work';

/** Jobs that last until they are ended. */
const begun = (work: HeavyWork) => {
  const running: string[] = [];
  const ends = new Map<string, () => void>();
  const begin = (name: string, purpose: Purpose, signal?: AbortSignal) =>
    work
      .run(
        purpose,
        async () => {
          running.push(name);
          await new Promise<void>((resolve) => ends.set(name, resolve));
          running.splice(running.indexOf(name), 1);
          return name;
        },
        signal,
      )
      .catch((error: Error) => error.message);
  const breathe = () => new Promise((resolve) => setTimeout(resolve, 1));
  const end = async (name: string) => {
    ends.get(name)!();
    await breathe();
  };
  return { running, begin, end, breathe };
};

it('limits concurrent jobs by the number of cores, in two independent lanes', async () => {
  const { running, begin, end, breathe } = begun(new HeavyWork(2));
  for (const name of ['a', 'b', 'c', 'd']) void begin(name, 'import');
  for (const name of ['x', 'y']) void begin(name, 'reading');
  await breathe();
  expect(running).toEqual(['a', 'b', 'c', 'x']);
  await end('x');
  expect(running).toEqual(['a', 'b', 'c', 'y']);
  await end('b');
  expect(running).toEqual(['a', 'c', 'y', 'd']);
});

it('starts the most urgent waiting job first', async () => {
  const { running, begin, end, breathe } = begun(new HeavyWork(1));
  for (const name of ['a', 'b']) void begin(name, 'import');
  void begin('import', 'import');
  void begin('sound', 'sound');
  void begin('recording', 'recording');
  await breathe();
  await end('a');
  await end('b');
  expect(running).toEqual(['recording', 'sound']);
  await end('sound');
  expect(running).toEqual(['recording', 'import']);
});

it('drops cancelled jobs, and continues after a failure', async () => {
  const work = new HeavyWork(1);
  const { running, begin, end, breathe } = begun(work);
  const stop = new AbortController();
  const [first, second] = [begin('a', 'reading'), begin('b', 'reading', stop.signal)];
  const third = begin('c', 'reading');
  stop.abort(new Error('cancelled'));
  expect(await second).toBe('cancelled');
  expect(await begin('d', 'reading', stop.signal)).toBe('cancelled');
  await end('a');
  expect([await first, running]).toEqual(['a', ['c']]);
  await end('c');
  expect(await third).toBe('c');
  await expect(work.run('size', () => Promise.reject(new Error('broken')))).rejects.toThrow(
    'broken',
  );
  void begin('e', 'size');
  await breathe();
  expect(running).toEqual(['e']);
  await end('e');
});

it('does not start a job that is cancelled just after its turn came', async () => {
  const work = new HeavyWork(1);
  const stop = new AbortController();
  const job = jest.fn(() => Promise.resolve());
  const waiting = work.run('captions', job, stop.signal);
  // The turn is taken by now, the job not yet started.
  stop.abort(new Error('cancelled'));
  await expect(waiting).rejects.toThrow('cancelled');
  expect(job).not.toHaveBeenCalled();
});
