import { PreparedLists } from './prepared-lists';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(60_000);

let server: TestServer;
beforeEach(async () => {
  server = await startTestServer();
});
afterEach(() => server.remove());

const until = async (isSo: () => Promise<boolean>): Promise<void> => {
  while (!(await isSo())) await new Promise((resolve) => setTimeout(resolve, 20));
};

it('prepares summaries and search terms of lessons that nobody has listed', async () => {
  const ids = Array.from({ length: 25 }, (_, index) => `lesson-number-${index}`);
  for (const id of ids) await server.ask('POST', '/api/lessons', { id, title: `Tides ${id}` });
  // An unreadable lesson doesn't stop the others.
  await server.inDatabase((db) => db('edits').where({ lesson_id: ids[3] }).delete());
  const { lessons, said } = server.parts;
  lessons.letGo(ids[3]!);
  expect([await lessons.stale(), await said.stale()].map((stale) => stale.length)).toEqual([
    25, 25,
  ]);
  await server.inDatabase(async (db) => {
    const lists = new PreparedLists(db, lessons, said, server.parts.log);
    lists.begin();
    await until(async () => (await said.stale()).length === 0);
    await lists.close();
  });
  expect(await lessons.stale()).toEqual([ids[3]]);
  await server.ask('POST', '/api/lessons/lesson-number-7/edits', {
    baseRevision: 1,
    entries: [{ id: 'entry-one', by: 'teacher', edit: { do: 'plan', set: { title: 'Streams' } } }],
  });
  expect(await said.stale()).toEqual([ids[7]]);
  expect((await server.ask('GET', '/api/lessons')).json).toHaveLength(25);
  expect(await lessons.stale()).toEqual([ids[3]]);
});
