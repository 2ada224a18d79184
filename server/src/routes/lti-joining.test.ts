import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import { startPracticeSite, type PracticeSite } from '@under-chalk/practice/site';
import { formIn, plainText, visitsFrom, whyNot } from '@under-chalk/practice/visits';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

let server: TestServer;
let site: PracticeSite;
const { post, press, comes, arrives } = visitsFrom(() => site.url);
beforeEach(async () => {
  server = await startTestServer();
  site = await startPracticeSite({ toolOrigin: 'http://127.0.0.1:9' });
});
afterEach(async () => {
  await site.stop();
  await server.remove();
});

const sites = async (): Promise<JoinedSite[]> =>
  (await server.ask('GET', '/api/course-sites')).json;
const ownAddress = async (): Promise<string> =>
  (await server.ask('POST', '/api/course-sites/joining')).json.address;
/** The address that the site opens in its frame, when it has been told ours. */
const asksAt = async (address: string): Promise<string> => {
  const html = await (await press('ottilie', '/tools', { address })).text();
  return plainText(/<iframe[^>]*src="([^"]*)"/.exec(html)?.[1] ?? '');
};
/** Presses the button of the page that asks. */
const agrees = async (asking: string) => {
  const html = await (await fetch(asking)).text();
  return post({ to: new URL(formIn(html).to, asking).href, fields: {} });
};

it('joins by itself, in the site’s frame, and is spoken with from then on', async () => {
  const asking = await asksAt(await ownAddress());
  const first = await fetch(asking);
  expect(first.headers.get('Content-Security-Policy')).toContain('frame-ancestors *');
  expect(whyNot(await first.text())).toBe('Join this course site?');
  // Nothing has happened yet: an address is opened by whoever looks ahead.
  expect([await sites(), site.tool]).toEqual([[], null]);
  const joined = await agrees(asking);
  expect([joined.status, whyNot(await joined.text())]).toEqual([200, 'It is joined.']);
  expect(site.tool).toMatchObject({ name: 'Under Chalk', login: `${server.url}/lti/login` });
  expect(await sites()).toMatchObject([{ issuer: site.url, clientId: site.tool!.clientId }]);
  // Who comes from there is known; their course has no class yet.
  const { status, html } = await arrives('ottilie', 'choose');
  expect([status, whyNot(html)]).toEqual([409, 'This course has no class in Under Chalk yet.']);
  // Our address was good once.
  const again = await agrees(await asksAt(asking.split('?')[0]!));
  expect([again.status, whyNot(await again.text())]).toEqual([
    409,
    'This sign-in has already been used.',
  ]);
  expect(await sites()).toHaveLength(1);
});

it('isn’t had by whoever has no address of ours', async () => {
  const asking = await asksAt(`${server.url}/lti/register/made-up`);
  expect((await fetch(asking)).status).toBe(403);
  expect((await agrees(asking)).status).toBe(403);
  const nothing = await fetch(await ownAddress());
  expect([nothing.status, await sites()]).toEqual([400, []]);
});

it('isn’t had when its hour is over', async () => {
  const { ticket } = server.parts.registrations.ticket(Date.now() - 3_700_000);
  const late = await fetch(await asksAt(`${server.url}/lti/register/${ticket}`));
  expect([late.status, whyNot(await late.text())]).toEqual([410, 'This sign-in has expired.']);
});

it('isn’t had twice with what the site has let in once', async () => {
  const asking = await asksAt(await ownAddress());
  await agrees(asking);
  const other = new URL(await ownAddress());
  other.search = new URL(asking).search;
  const again = await agrees(other.href);
  expect([again.status, whyNot(await again.text())]).toEqual([
    ...[400, 'The course site can’t be joined like this.'],
  ]);
});

it('is had once, however many ask at the same moment', async () => {
  const asking = await asksAt(await ownAddress());
  const statuses = (await Promise.all([1, 2, 3].map(() => agrees(asking)))).map(
    ({ status }) => status,
  );
  expect(statuses.sort()).toEqual([200, 409, 409]);
  expect(await sites()).toHaveLength(1);
});

it('is shown where what is kept of it can’t be read, and can be removed', async () => {
  await agrees(await asksAt(await ownAddress()));
  const [{ id, name }] = (await sites()) as [JoinedSite];
  await server.inDatabase((db) => db('course_sites').where({ id }).update({ client_id: ' ' }));
  expect(await sites()).toMatchObject([{ id, name: 'Damaged course site', damaged: true }]);
  expect((await comes('ottilie', 'choose')).fields['status']).toBe('403');
  expect((await server.ask('DELETE', `/api/course-sites/${id}`)).json).toEqual([]);
  expect(name).not.toBe('Damaged course site');
});

describe('a site that says otherwise', () => {
  let odd: Server;
  let answer: object | string = {};
  /** What is answered at some of its paths instead. */
  const answers = new Map<string, object | string>();
  const at = () => `http://127.0.0.1:${(odd.address() as AddressInfo).port}`;
  beforeAll(async () => {
    odd = createServer((request, response) => {
      const told = answers.get(request.url ?? '') ?? answer;
      response.end(typeof told === 'string' ? told : JSON.stringify(told));
    }).listen(0, '127.0.0.1');
    await new Promise((resolve) => odd.once('listening', resolve));
  });
  afterAll(() => odd.close());
  const asked = async (from = `${at()}/openid`) => {
    const address = new URL(await ownAddress());
    address.searchParams.set('openid_configuration', from);
    const response = await fetch(address);
    return [response.status, whyNot(await response.text())];
  };

  it('isn’t joined', async () => {
    const unfit = [400, 'The course site can’t be joined like this.'];
    const away = [502, 'The course site doesn’t answer.'];
    const all = {
      ...{ issuer: at(), authorization_endpoint: at(), token_endpoint: at(), jwks_uri: at() },
      registration_endpoint: at(),
    };
    answer = {};
    expect(await asked()).toEqual(unfit);
    // For another.
    answer = { ...all, issuer: site.url };
    expect(await asked()).toEqual(unfit);
    answer = 'no JSON';
    expect(await asked()).toEqual(away);
    expect(await asked('http://127.0.0.1:9/')).toEqual(away);
    expect((await asked('file:///etc/passwd'))[0]).toBe(400);
    // With a name and a password in an address, that would be kept.
    for (const endpoint of ['token_endpoint', 'jwks_uri', 'authorization_endpoint']) {
      answer = { ...all, [endpoint]: at().replace('//', '//bram:secret@') };
      expect(await asked()).toEqual(unfit);
    }
    answer = all;
    expect((await asked())[0]).toBe(200);
    expect(await sites()).toEqual([]);
  });

  it.each([
    [{ client_id: '   ' }],
    [{ client_id: '' }],
    [{ client_id: 'c'.repeat(201) }],
    [{ client_id: 7 }],
    [{}],
    ['no JSON'],
  ])('isn’t joined where it knows us by nothing that can be kept: %j', async (known) => {
    const all = {
      ...{ issuer: at(), authorization_endpoint: at(), token_endpoint: at(), jwks_uri: at() },
      registration_endpoint: `${at()}/register`,
    };
    answer = all;
    const address = new URL(await ownAddress());
    address.searchParams.set('openid_configuration', `${at()}/openid`);
    const page = await (await fetch(address)).text();
    answers.set('/register', known);
    const { status } = await post({ to: new URL(formIn(page).to, address).href, fields: {} });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(await sites()).toEqual([]);
    // Its ticket wasn't used up by that.
    answers.set('/register', { client_id: 'chalk-1' });
    const again = await post({ to: new URL(formIn(page).to, address).href, fields: {} });
    expect([again.status, (await sites()).length]).toEqual([200, 1]);
  });
});
