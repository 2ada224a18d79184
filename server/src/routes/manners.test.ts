import { NEW_DECISIONS } from '@under-chalk/core/edit/decisions';
import { mannerOf, MOST_MANNERS } from '@under-chalk/core/lesson/manner';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const manner = (id: string, name: string) => ({
  ...{ id, name, className: 'Coastal navigation' },
  says: mannerOf({ ...NEW_DECISIONS, changeUs: 0 }),
});
const keep = (id: string, name: string) => server.ask('POST', '/api/manners', manner(id, name));
const names = async () =>
  (await server.ask('GET', '/api/manners')).json.map((one: { name: string }) => one.name);

it('keeps them, changes one by its id, lets one go, and says when there is no room', async () => {
  expect(await names()).toEqual([]);
  for (let at = 1; at <= MOST_MANNERS; at++)
    expect((await keep(`manner-${at}`, `No ${at}`)).status).toBe(200);
  const { status, json } = await keep('manner-more', 'One more');
  expect([status, json.code]).toEqual([409, 'too-many-manners']);
  expect((await keep('manner-1', 'Evenings')).json[0].name).toBe('Evenings');
  for (let at = 2; at <= MOST_MANNERS; at++)
    await server.ask('DELETE', `/api/manners/manner-${at}`);
  expect(await names()).toEqual(['Evenings']);
});

it('refuses what says less than a manner does, or something else', async () => {
  const whole = manner('manner-odd', 'Odd');
  const { resting: _resting, ...less } = whole.says;
  for (const bad of [
    { ...whole, says: less },
    { ...whole, says: { ...whole.says, changeUs: 'soon' } },
    { ...whole, name: ' ' },
  ]) {
    expect((await server.ask('POST', '/api/manners', bad)).status).toBe(400);
  }
});

it('are kept over a restart', async () => {
  const home = server.config.folders.home;
  await server.stop();
  server = await startTestServer({ home });
  expect(await names()).toEqual(['Evenings']);
});
