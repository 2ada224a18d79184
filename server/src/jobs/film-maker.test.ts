import { startTestServer, type TestServer } from '../testing/test-server';
import type { Work } from './film-maker';
import { turns } from './turns';

jest.setTimeout(120_000);

/** Stands in for the making of a film: it waits to be let go of, or to be called off, which can take a while, ms. */
const held = () => {
  const begun: string[] = [];
  const slow = { offMs: 0 };
  const letGo = new Map<string, () => void>();
  const work: Work = (job, _onProgress, signal) =>
    new Promise((resolve, reject) => {
      begun.push(job.out);
      const off = () => void setTimeout(() => reject(signal.reason as Error), slow.offMs);
      if (signal.aborted) off();
      signal.addEventListener('abort', off);
      letGo.set(job.out, () => reject(new Error('the encoder fell over')));
      void resolve;
    });
  /** Lets a film fail, by the end of its file's name. */
  const fail = (name: string) => [...letGo].find(([out]) => out.endsWith(name))?.[1]();
  return { work, begun, fail, slow };
};

let server: TestServer;
let making: ReturnType<typeof held>;
beforeEach(async () => {
  making = held();
  server = await startTestServer({ work: making.work });
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Tide heights' });
});
afterEach(async () => {
  jest.restoreAllMocks();
  await server.remove();
});

const want = (revision: number) =>
  server.parts.films.want({
    lesson_id: 'lesson-one',
    revision,
    manifest_id: `manifest-${revision}`,
    size: '720p',
    film_us: 1,
    file_name: 'x.mp4',
    words: null,
  });
const stateOf = async (id: string) =>
  server.parts.maker.toRow(await server.parts.films.get(id)).state;
const until = async (met: () => boolean | Promise<boolean>) => {
  for (let tries = 0; tries < 200; tries++) {
    if (await met()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it does not come to that');
};
/** Begins what is in the queue: asking for a film that was cancelled does. */
const stir = async () => {
  const stirrer = await want(99);
  await server.parts.maker.cancel(stirrer.id);
  await server.parts.maker.retry(stirrer.id);
  await server.parts.maker.cancel(stirrer.id);
};

/** A film that fails while the database can't be written to. */
const failUnwritten = async () => {
  const film = await want(1);
  await stir();
  await until(() => making.begun.some((out) => out.endsWith(`${film.id}.mp4`)));
  const full = Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
  const writing = jest.spyOn(server.parts.films, 'change').mockRejectedValue(full);
  making.fail(`${film.id}.mp4`);
  return { film, writing };
};

it('a film called off in any moment of its beginning is not made, and the next one is', async () => {
  for (let topicsDone = 0; topicsDone < 12; topicsDone++) {
    const film = await want(1);
    void server.parts.maker.retry(film.id);
    void stir();
    for (let tick = 0; tick < topicsDone; tick++)
      await new Promise((resolve) => setImmediate(resolve));
    await server.parts.maker.cancel(film.id);
    expect([topicsDone, await stateOf(film.id)]).toEqual([topicsDone, 'cancelled']);
  }
  await new Promise((resolve) => setTimeout(resolve, 300));
  const last = await want(1);
  await stir();
  await until(async () => (await stateOf(last.id)) === 'making');
  await server.parts.maker.cancel(last.id);
});

it('a film that is taken up again while it is still being called off is made', async () => {
  const film = await want(1);
  await stir();
  await until(async () => (await stateOf(film.id)) === 'making');
  const begun = making.begun.length;
  making.slow.offMs = 400;
  const called = server.parts.maker.cancel(film.id);
  // Told at once, and pressed at once.
  await until(async () => (await stateOf(film.id)) === 'cancelled');
  await server.parts.maker.retry(film.id);
  await called;
  await until(() => making.begun.length > begun);
  await new Promise((resolve) => setTimeout(resolve, 600));
  expect(await stateOf(film.id)).toBe('making');
  making.slow.offMs = 0;
  await server.parts.maker.cancel(film.id);
});

it('what can’t be written down now is written down later, and the queue goes on', async () => {
  const { film, writing } = await failUnwritten();
  await until(() => writing.mock.calls.length > 0);
  await new Promise((resolve) => setTimeout(resolve, 50));
  // Not in the database yet, and told all the same.
  expect((await server.parts.films.get(film.id)).state).toBe('making');
  expect(await stateOf(film.id)).toBe('failed');
  const next = await want(2);
  writing.mockRestore();
  await until(async () => (await server.parts.films.get(film.id)).state === 'failed');
  await until(async () => (await stateOf(next.id)) === 'making');
  await server.parts.maker.cancel(next.id);
});

it('what failed and could not be written down can be tried again at once', async () => {
  const { film, writing } = await failUnwritten();
  await until(async () => (await stateOf(film.id)) === 'failed');
  expect((await server.parts.films.get(film.id)).state).toBe('making');
  writing.mockRestore();
  const begun = making.begun.length;
  await server.parts.maker.retry(film.id);
  await until(() => making.begun.length > begun);
  expect(await stateOf(film.id)).toBe('making');
  await server.parts.maker.cancel(film.id);
});

it('what students are told stands with the film: no edit is replayed for them', async () => {
  const { lessons, films } = server.parts;
  const cut = (index: number) => ({
    id: `entry-cut-${index}`,
    by: 'teacher',
    edit: { do: 'cut', takeId: 'take-one', startUs: index * 10, endUs: index * 10 + 5 },
  });
  for (let batch = 0; batch < 10; batch++) {
    const entries = Array.from({ length: 200 }, (_, index) => cut(batch * 200 + index));
    await server.ask('POST', '/api/lessons/lesson-one/edits', {
      baseRevision: 1,
      entries,
    });
  }
  const { lesson } = await lessons.view('lesson-one');
  expect(lesson.decisions.cuts).toHaveLength(2_000);
  const words = { title: 'Tide heights', description: '', filmUs: 7, chapters: [] };
  const film = await films.want({
    lesson_id: 'lesson-one',
    revision: lesson.revision,
    manifest_id: 'of-two-thousand-cuts',
    size: '720p',
    film_us: 7,
    file_name: 'x.mp4',
    words: JSON.stringify(words),
  });
  const { shareLinks } = server.parts;
  const token = shareLinks.tokenOf(await shareLinks.add('lesson-one', film.id))!;
  const replayed = jest.spyOn(lessons, 'lessonAt');
  const viewed = jest.spyOn(lessons, 'view');
  const took: number[] = [];
  for (let times = 0; times < 40; times++) {
    const began = performance.now();
    const answer = await server.ask('GET', `/api/watch/${token}`);
    took.push(performance.now() - began);
    expect(answer.json).toMatchObject({ title: 'Tide heights', filmUs: 7 });
  }
  expect([replayed.mock.calls.length, viewed.mock.calls.length]).toEqual([0, 0]);
  // The whole way over HTTP; a busy machine is given some room.
  expect(took.sort((a, b) => a - b)[20]).toBeLessThan(25);
});

it('short films are not held up by long ones: the next piece of each gets its turn', async () => {
  const takeTurn = turns<string>(2, (name) => (name === 'watched' ? 0 : 1));
  const order: string[] = [];
  const make = async (name: string, pieces: number) => {
    const waiting = Array.from({ length: pieces }, (_, piece) => piece).values();
    const line = async () => {
      for (const piece of waiting) {
        const giveBack = await takeTurn(name);
        order.push(`${name} ${piece}`);
        await new Promise((resolve) => setTimeout(resolve, 2));
        giveBack();
      }
    };
    await Promise.all([line(), line()]);
  };
  const long = make('long', 40);
  await new Promise((resolve) => setTimeout(resolve, 5));
  await make('short', 6);
  expect(order.length).toBeLessThan(22);
  expect(order.filter((piece) => piece.startsWith('short'))).toHaveLength(6);
  // What somebody waits for comes before what was there before it.
  const before = order.length;
  await make('watched', 6);
  expect(order.length - before).toBeLessThan(11);
  await long;
  expect(order).toHaveLength(52);
});
