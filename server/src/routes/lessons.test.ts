import { openDatabase } from '../store/database';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(30_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const lessonId = 'lesson-tides';
const edits = `/api/lessons/${lessonId}/edits`;
const put = (baseRevision: number, entries: unknown[], anyway = false) =>
  server.ask('POST', edits, { baseRevision, entries, anyway });
const titled = (title: string) => ({ do: 'plan', set: { title } });

it('begins a lesson, once', async () => {
  const made = await server.ask('POST', '/api/lessons', { id: lessonId, title: 'Tide heights' });
  expect(made.json.lesson).toMatchObject({
    revision: 1,
    decisions: { plan: { title: 'Tide heights' } },
  });
  expect((await server.ask('POST', '/api/lessons', { id: lessonId, title: '' })).status).toBe(409);
});

it('lets two tabs change different things, and both stand', async () => {
  await put(1, [{ do: 'soften', changeUs: 0 }]);
  const second = await put(1, [titled('Tide heights by the rule of twelfths')]);
  expect(second.status).toBe(200);
  expect(second.json.lesson.decisions).toMatchObject({
    changeUs: 0,
    plan: { title: 'Tide heights by the rule of twelfths' },
  });
});

it('does not overwrite the same thing silently, but on request', async () => {
  const { json: view } = await server.ask('GET', `/api/lessons/${lessonId}`);
  const seen = view.lesson.revision;
  await put(seen, [{ do: 'soften', changeUs: 200_000 }]);
  const stopped = await put(seen, [{ do: 'soften', changeUs: 900_000 }]);
  expect([stopped.status, stopped.json.code]).toEqual([409, 'changed-elsewhere']);
  const now = await server.ask('GET', `/api/lessons/${lessonId}`);
  expect(now.json.lesson.decisions.changeUs).toBe(200_000);
  const forced = await put(seen, [{ do: 'soften', changeUs: 900_000 }], true);
  expect(forced.json.lesson.decisions.changeUs).toBe(900_000);
});

it('keeps undo and redo in the list, over a restart of the server', async () => {
  const { json: before } = await server.ask('GET', `/api/lessons/${lessonId}`);
  await put(before.lesson.revision, [{ do: 'undo' }]);
  const { home } = server.config.folders;
  await server.stop();
  server = await startTestServer({ home });
  const { json: after } = await server.ask('GET', `/api/lessons/${lessonId}`);
  expect(after.canRedo).toBe(true);
  expect(after.lesson.decisions.changeUs).toBe(200_000);
  const redone = await put(after.lesson.revision, [{ do: 'redo' }]);
  expect(redone.json.lesson.decisions.changeUs).toBe(900_000);
});

it('puts down edits of a bundle all or not at all', async () => {
  const { json: before } = await server.ask('GET', edits);
  const bad = await put(99, [titled('x'), { do: 'cut', takeId: 'take-one', startUs: 5, endUs: 5 }]);
  expect(bad.status).toBe(400);
  expect((await server.ask('GET', edits)).json).toEqual(before);
});

it('gives two edits sent at the same moment a revision each', async () => {
  const { json: before } = await server.ask('GET', `/api/lessons/${lessonId}`);
  const cut = (startUs: number) => ({ do: 'cut', takeId: 'take-one', startUs, endUs: startUs + 5 });
  await Promise.all(
    [0, 100, 200, 300].map((startUs) => put(before.lesson.revision, [cut(startUs)])),
  );
  const { json: after } = await server.ask('GET', `/api/lessons/${lessonId}`);
  expect(after.lesson.revision).toBe(before.lesson.revision + 4);
  expect(after.lesson.decisions.cuts).toHaveLength(4);
});

it('lists lessons, last changed first', async () => {
  await server.ask('POST', '/api/lessons', { id: 'lesson-two', title: 'Week four: welcome' });
  const { json } = await server.ask('GET', '/api/lessons');
  expect(json.map((row: { id: string }) => row.id)).toEqual(['lesson-two', lessonId]);
});

it('has no lesson that it does not have', async () => {
  expect((await server.ask('GET', '/api/lessons/no-such-lesson')).status).toBe(404);
  expect(
    (
      await server.ask('POST', '/api/lessons/no-such-lesson/edits', {
        baseRevision: 0,
        entries: [titled('x')],
      })
    ).status,
  ).toBe(404);
});

it('tells of a lesson that can’t be read, shows the others, and lets it be put away', async () => {
  const database = await openDatabase(server.config.folders.database);
  try {
    await database('edits').insert({
      lesson_id: 'lesson-two',
      revision: 2,
      entry: JSON.stringify({ do: 'a-kind-of-tomorrow' }),
      at: new Date().toISOString(),
    });
  } finally {
    await database.destroy();
  }
  const rows = async () =>
    (await server.ask('GET', '/api/lessons')).json.map(
      (row: { id: string; problem: string | null }) => [row.id, row.problem],
    );
  expect(await rows()).toEqual([
    ['lesson-two', 'lesson-unreadable'],
    [lessonId, null],
  ]);
  expect((await server.ask('GET', '/api/lessons/lesson-two')).json.code).toBe('lesson-unreadable');
  await server.ask('DELETE', '/api/lessons/lesson-two');
  expect(await rows()).toEqual([[lessonId, null]]);
  await server.ask('POST', '/api/lessons/lesson-two/bring-back');
  expect(await rows()).toHaveLength(2);
  expect((await server.ask('DELETE', '/api/lessons/no-such-lesson')).status).toBe(404);
});

it('tells of a take that can’t be right, and shows its lesson', async () => {
  const take = { id: 'take-odd', source: 'film', practice: false };
  const tracks = [{ id: 'take-odd-surface', kind: 'surface' }];
  await server.ask('POST', `/api/lessons/${lessonId}/takes`, { ...take, tracks });
  const twice = [...tracks, ...tracks];
  const again = { ...take, id: 'take-twice', tracks: twice };
  expect((await server.ask('POST', `/api/lessons/${lessonId}/takes`, again)).status).toBe(400);
  const database = await openDatabase(server.config.folders.database);
  try {
    await database('takes')
      .where({ id: 'take-odd' })
      .update({ state: 'ready', duration_us: 100_000_000_000 });
  } finally {
    await database.destroy();
  }
  const { lesson } = (await server.ask('GET', `/api/lessons/${lessonId}`)).json;
  expect(lesson.takes[0]).toMatchObject({ state: 'unusable', problem: 'take-unreadable' });
});
