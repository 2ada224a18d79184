import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const kept = (id: string, name: string) => ({ id, name, layout: DEFAULT_LAYOUT });
const keep = (id: string, name: string) => server.ask('POST', '/api/layouts', kept(id, name));
const names = async () =>
  (await server.ask('GET', '/api/layouts')).json.map((one: { name: string }) => one.name);

it('keeps a few, changes one by its id, and lets one go', async () => {
  expect(await names()).toEqual([]);
  for (const [id, name] of [
    ['arranged-1', 'Large face'],
    ['arranged-2', 'Beside'],
    ['arranged-1', 'Larger face'],
    ['arranged-3', ' Corner '],
  ] as const) {
    expect((await keep(id, name)).status).toBe(200);
  }
  expect(await names()).toEqual(['Larger face', 'Beside', 'Corner']);
  const { status, json } = await keep('arranged-4', 'One more');
  expect([status, json.code]).toEqual([409, 'too-many-layouts']);
  expect((await server.ask('DELETE', '/api/layouts/arranged-2')).status).toBe(200);
  expect((await keep('arranged-4', 'One more')).status).toBe(200);
  expect(await names()).toEqual(['Larger face', 'Corner', 'One more']);
});

it('refuses what is no layout', async () => {
  const bad = { ...kept('arranged-5', 'Odd'), layout: { kind: 'upside-down' } };
  expect((await server.ask('POST', '/api/layouts', bad)).status).toBe(400);
  expect((await keep('arranged-5', ' ')).status).toBe(400);
});

it('are kept over a restart', async () => {
  const home = server.config.folders.home;
  await server.stop();
  server = await startTestServer({ home });
  expect(await names()).toEqual(['Larger face', 'Corner', 'One more']);
});
