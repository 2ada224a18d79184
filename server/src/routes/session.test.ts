import { ENDPOINTS } from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { startTestServer, type TestServer } from '../testing/test-server';
import { request } from 'node:http';

jest.setTimeout(120_000);
const PASSPHRASE = 'low water at half past nine';

describe('an own Under Chalk', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer({ demo: false });
  });
  afterAll(() => server.remove());

  it('lets nobody in to anything but what is open', async () => {
    for (const [name, endpoint] of Object.entries<Endpoint>(ENDPOINTS)) {
      const path = endpoint.path.replace(/:\w+/g, 'abcdef123456');
      const { status, json } = await server.ask(endpoint.method.toUpperCase(), path);
      if (endpoint.from) expect([name, status]).not.toEqual([name, 401]);
      else expect([name, status, json.code]).toEqual([name, 401, 'signed-out']);
    }
    for (const path of ['/api/uploads', '/api/uploads/abcdef123456']) {
      expect((await server.ask('POST', path)).status).toBe(401);
    }
  });

  it('is set up once, with the code that was printed, and then opened with the passphrase', async () => {
    const wanted = { code: 'guess', teacherName: 'Ottilie Marsh', passphrase: PASSPHRASE };
    expect((await server.ask('POST', '/api/set-up', wanted)).json.code).toBe('wrong-code');
    const right = { ...wanted, code: server.parts.setUpCode };
    expect(
      (await server.ask('POST', '/api/set-up', { ...right, passphrase: 'short' })).status,
    ).toBe(400);
    const made = await server.ask('POST', '/api/set-up', right);
    expect(made.json).toMatchObject({ signedIn: true, teacherName: 'Ottilie Marsh' });
    expect((await server.ask('POST', '/api/set-up', right)).json.code).toBe('already-set-up');

    const signedIn = await server.ask('POST', '/api/session', { passphrase: PASSPHRASE });
    const cookie = signedIn.headers.get('set-cookie')!;
    expect(cookie).toMatch(/httponly/i);
    expect(cookie).toMatch(/samesite=strict/i);
    const jar = { Cookie: cookie.split(';')[0]! };
    expect((await server.ask('GET', '/api/lessons', undefined, jar)).status).toBe(200);
    await server.ask('DELETE', '/api/session', undefined, jar);
    expect((await server.ask('GET', '/api/lessons', undefined, jar)).status).toBe(401);
  });

  it('lets the teacher change name and passphrase; other browsers are signed out by a new one', async () => {
    const signIn = (passphrase: string) => server.ask('POST', '/api/session', { passphrase });
    const jarOf = ({ headers }: { headers: Headers }) => ({
      Cookie: headers.get('set-cookie')!.split(';')[0]!,
    });
    const [jar, other] = [jarOf(await signIn(PASSPHRASE)), jarOf(await signIn(PASSPHRASE))];
    const named = await server.ask('POST', '/api/teacher', { teacherName: 'O. Marsh' }, jar);
    expect(named.json.teacherName).toBe('O. Marsh');
    const change = (now: string, next: string) =>
      server.ask('POST', '/api/passphrase', { now, next }, jar);
    expect((await change('not this one', 'high water at noon')).json.code).toBe('wrong-passphrase');
    expect((await change(PASSPHRASE, 'short')).status).toBe(400);
    expect((await change(PASSPHRASE, 'high water at noon')).status).toBe(200);
    const lessons = async (of: Record<string, string>) =>
      (await server.ask('GET', '/api/lessons', undefined, of)).status;
    expect([await lessons(jar), await lessons(other)]).toEqual([200, 401]);
    expect((await signIn(PASSPHRASE)).json.code).toBe('wrong-passphrase');
    expect((await change('high water at noon', PASSPHRASE)).status).toBe(200);
  });

  it('behind another server, strangers can’t lock the teacher out, and cookies go by TLS only', async () => {
    const front = { origin: 'https://chalk.example', secure: true, proxies: ['127.0.0.1'] };
    const other = await startTestServer({ demo: false, front });
    const from = (address: string, more = {}) => ({
      'X-Forwarded-For': address,
      Origin: 'https://chalk.example',
      ...more,
    });
    const signIn = (passphrase: string, headers: Record<string, string>) =>
      other.ask('POST', '/api/session', { passphrase }, headers);
    try {
      await other.parts.accounts.setUp('Ottilie Marsh', PASSPHRASE);
      const first = await signIn(PASSPHRASE, from('198.51.100.1'));
      expect(first.status).toBe(200);
      expect(first.headers.get('strict-transport-security')).toContain('max-age');
      const cookies = first.headers.getSetCookie();
      expect(cookies).toHaveLength(2);
      for (const cookie of cookies) expect(cookie).toMatch(/; secure/i);
      const known = { Cookie: cookies.find((cookie) => cookie.includes('known'))!.split(';')[0]! };
      expect(
        (await signIn(PASSPHRASE, from('198.51.100.1', { Origin: other.url }))).json.code,
      ).toBe('foreign-origin');
      // However many strangers guess, from wherever: the right one is heard.
      const codes = await Promise.all(
        Array.from({ length: 64 }, async (_, time) => {
          const { json } = await signIn(`wrong ${time}`, from(`203.0.113.${time}`));
          return json.code;
        }),
      );
      expect(new Set(codes)).toEqual(new Set(['wrong-passphrase']));
      for (let time = 0; time < 5; time++) await signIn('wrong', from('198.51.100.2'));
      expect((await signIn(PASSPHRASE, from('198.51.100.2', known))).status).toBe(200);
      const began = Date.now();
      expect((await signIn(PASSPHRASE, from('198.51.100.2'))).status).toBe(200);
      // Where somebody has guessed, it is heard after a while; a forged mark is none.
      expect(Date.now() - began).toBeGreaterThan(500);
      const forged = { Cookie: 'under-chalk-known=abc.def' };
      for (let time = 0; time < 5; time++) await signIn('wrong', from('198.51.100.3', forged));
      const again = Date.now();
      await signIn('wrong', from('198.51.100.3', forged));
      expect(Date.now() - again).toBeGreaterThan(500);
    } finally {
      await other.remove();
    }
  });

  it('takes little from strangers', async () => {
    const large = await server.ask('POST', '/api/session', { passphrase: 'x'.repeat(5_000) });
    expect(large.status).toBe(413);
  });

  it('refuses what another site’s page asks for', async () => {
    const asked = await server.ask(
      'POST',
      '/api/session',
      { passphrase: PASSPHRASE },
      { Origin: 'http://elsewhere.example' },
    );
    expect(asked.json.code).toBe('foreign-origin');
  });
});

describe('the demo', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer({ demo: true });
  });
  afterAll(() => server.remove());

  const statusWithHost = (host: string) =>
    new Promise<number>((resolve) => {
      const { port } = new URL(server.url);
      request({ port, path: '/api/lessons', headers: { Host: host } }, (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      }).end();
    });

  it('is open to this machine by its own name only', async () => {
    expect(await statusWithHost(new URL(server.url).host)).toBe(200);
    expect(await statusWithHost('localhost:4750')).toBe(200);
    expect(await statusWithHost('rebound.example:4750')).toBe(401);
  });

  it('keeps other sites from framing it, sniffing it and learning its addresses', async () => {
    const { headers } = await server.ask('GET', '/api/health');
    expect(headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('referrer-policy')).toBe('no-referrer');
  });

  it('describes its API from the contract', async () => {
    const { json } = await server.ask('GET', '/api/openapi.json');
    expect(json.openapi).toBe('3.1.0');
    const operations = Object.values<Record<string, { operationId: string }>>(json.paths)
      .flatMap((path) => Object.values(path))
      .map((operation) => operation.operationId);
    expect(operations.sort()).toEqual(Object.keys(ENDPOINTS).sort());
  });

  it('answers nonsense with a sentence, not with a trace', async () => {
    const { status, json } = await server.ask('GET', '/api/nothing/here');
    expect([status, json.code]).toEqual([404, 'not-found']);
    const bad = await server.ask('POST', '/api/lessons', { id: '../../x', title: '' });
    expect([bad.status, bad.json.message]).toEqual([400, 'This could not be understood.']);
  });
});
