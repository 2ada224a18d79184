import { FIRST_DESTINATIONS } from '@under-chalk/core/destination/destination';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const note = FIRST_DESTINATIONS[0]!;
const names = async () =>
  (await server.ask('GET', '/api/destinations')).json.destinations.map(
    (place: { name: string }) => place.name,
  );

it('ships with a handful', async () => {
  const { json } = await server.ask('GET', '/api/destinations');
  expect(json).toEqual({ destinations: FIRST_DESTINATIONS, attentionUs: 300_000_000 });
});

it('changes one, and adds another above the one without limits', async () => {
  await server.ask('POST', '/api/destinations', {
    ...note,
    name: 'Two-minute note',
    mostUs: 120_000_000,
  });
  await server.ask('POST', '/api/destinations', {
    ...note,
    id: 'evening-board',
    name: 'Evening board',
  });
  expect(await names()).toEqual([
    'Two-minute note',
    'Ten-minute course film',
    'Long lesson',
    'Evening board',
    'A file for anywhere',
  ]);
});

it('removes one, but not the one that lessons fall back to', async () => {
  expect((await server.ask('DELETE', '/api/destinations/evening-board')).status).toBe(200);
  expect(await names()).not.toContain('Evening board');
  expect((await server.ask('DELETE', '/api/destinations/anywhere')).status).toBe(400);
  expect(await names()).toContain('A file for anywhere');
});

it('keeps where attention ends, and refuses nonsense', async () => {
  await server.ask('POST', '/api/attention', { attentionUs: 240_000_000 });
  expect((await server.ask('GET', '/api/destinations')).json.attentionUs).toBe(240_000_000);
  expect((await server.ask('POST', '/api/attention', { attentionUs: 5 })).status).toBe(400);
  const backwards = { ...note, leastUs: 200_000_000, mostUs: 100_000_000 };
  expect((await server.ask('POST', '/api/destinations', backwards)).status).toBe(400);
});

it('tells the room on its disk', async () => {
  const { json } = await server.ask('GET', '/api/storage');
  expect(json.freeBytes).toBeGreaterThan(1_000_000);
});
