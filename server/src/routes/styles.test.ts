import { NEW_DECISIONS } from '@under-chalk/core/edit/decisions';
import { savedStyleOf, MOST_SAVED_STYLES } from '@under-chalk/core/lesson/saved-style';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const savedStyle = (id: string, name: string) => ({
  ...{ id, name, className: 'Coastal navigation' },
  says: savedStyleOf({ ...NEW_DECISIONS, layoutTransitionUs: 0 }),
});
const keep = (id: string, name: string) => server.ask('POST', '/api/styles', savedStyle(id, name));
const names = async () =>
  (await server.ask('GET', '/api/styles')).json.map((one: { name: string }) => one.name);

it('keeps them, changes one by its id, lets one go, and says when there is no room', async () => {
  expect(await names()).toEqual([]);
  for (let at = 1; at <= MOST_SAVED_STYLES; at++)
    expect((await keep(`saved-style-${at}`, `No ${at}`)).status).toBe(200);
  const { status, json } = await keep('saved-style-more', 'One more');
  expect([status, json.code]).toEqual([409, 'too-many-saved-styles']);
  expect((await keep('saved-style-1', 'Evenings')).json[0].name).toBe('Evenings');
  for (let at = 2; at <= MOST_SAVED_STYLES; at++)
    await server.ask('DELETE', `/api/styles/saved-style-${at}`);
  expect(await names()).toEqual(['Evenings']);
});

it('refuses what says less than a style does, or something else', async () => {
  const whole = savedStyle('saved-style-odd', 'Odd');
  const { defaultLayout: _resting, ...less } = whole.says;
  for (const bad of [
    { ...whole, says: less },
    { ...whole, says: { ...whole.says, layoutTransitionUs: 'soon' } },
    { ...whole, name: ' ' },
  ]) {
    expect((await server.ask('POST', '/api/styles', bad)).status).toBe(400);
  }
});

it('are kept over a restart', async () => {
  const home = server.config.folders.home;
  await server.stop();
  server = await startTestServer({ home });
  expect(await names()).toEqual(['Evenings']);
});
