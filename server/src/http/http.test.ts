import Koa, { type Context } from 'koa';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sendFile } from './files';
import { keptIn } from '../testing/test-server';
import { problems } from './problems';
import { requestLog } from './request-log';
import { callerOf } from './security';
import { staticApp } from './static-app';

let folder: string;
let server: Server;
let url: string;
const logged: string[] = [];

const itsOwnCause: { code: string; cause?: unknown } = { code: 'E_ODD' };
itsOwnCause.cause = itsOwnCause;
/** What is thrown somewhere, by name, and how it is answered. */
const THROWN: readonly (readonly [string, unknown, number])[] = [
  ['a timeout, whose code is a number', new DOMException('too long', 'TimeoutError'), 500],
  ['null', null, 500],
  ['undefined', undefined, 500],
  ['a text', 'ENOENT', 500],
  ['a number', 404, 500],
  ['a function', () => undefined, 500],
  ['a symbol', Symbol('odd'), 500],
  ['an object without a prototype', Object.create(null), 500],
  ['codes of other types', { code: {}, status: '404' }, 500],
  ['its own cause', itsOwnCause, 500],
  ['a full disk, three causes deep', { cause: { cause: { cause: { code: 'ENOSPC' } } } }, 507],
  ['a broken gzip body', Object.assign(new Error('zlib'), { code: 'Z_DATA_ERROR' }), 400],
  [
    'a broken Brotli body',
    Object.assign(new Error('br'), { code: 'ERR_BROTLI_DECODER_ERROR_X' }),
    400,
  ],
  ['a body that is too large', { status: 413 }, 413],
  ['a refused method', { status: 405 }, 400],
];

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-http-'));
  await mkdir(join(folder, 'app', '_expo'), { recursive: true });
  await writeFile(join(folder, 'app', 'index.html'), '<title>Under Chalk</title>');
  await writeFile(join(folder, 'app', '_expo', 'entry-abc.js'), 'let chalk = 1;');
  await writeFile(join(folder, 'secret.txt'), 'not for you');
  await writeFile(join(folder, 'Ebbe & Flut %.mp4'), Buffer.alloc(1_000, 1));
  const app = new Koa();
  app.use(requestLog(keptIn(logged)));
  app.use(problems());
  app.use(async (ctx, next) => {
    if (ctx.path === '/film') {
      const film = join(folder, 'Ebbe & Flut %.mp4');
      await sendFile(ctx, film, {
        type: 'video/mp4',
        keep: 'never',
        saveAs: 'Ebbe & Flut „%“.mp4',
      });
    } else if (ctx.path === '/gone') {
      await sendFile(ctx, join(folder, 'gone.mp4'), { type: 'video/mp4', keep: 'never' });
    } else if (ctx.path === '/broken') {
      throw new Error(`a trace with ${folder}`);
    } else if (ctx.path === '/full') {
      throw Object.assign(new Error('write'), { code: 'ENOSPC' });
    } else if (ctx.path === '/cut') {
      throw Object.assign(new Error('aborted'), { code: 'ECONNRESET' });
    } else if (ctx.path.startsWith('/throws/')) {
      throw THROWN[Number(ctx.path.slice(8))]![1];
    } else await next();
  });
  app.use(staticApp(join(folder, 'app')));
  server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  server.closeAllConnections();
  await rm(folder, { recursive: true, force: true });
});

it('logs nothing when a client disconnects', async () => {
  logged.length = 0;
  await fetch(`${url}/cut`);
  expect(logged.filter((line) => line.includes('"error"'))).toEqual([]);
});

it.each(THROWN.map(([name, , status], index) => [name, index, status] as const))(
  'answers whatever is thrown with an error from the table: %s',
  async (_, index, status) => {
    logged.length = 0;
    const response = await fetch(`${url}/throws/${index}`);
    expect(response.status).toBe(status);
    expect(Object.keys((await response.json()) as object).sort()).toEqual([
      'code',
      'hint',
      'message',
    ]);
    if (status === 500) expect(logged).toHaveLength(1);
  },
);

describe('files', () => {
  it('are sent whole, under the name they are to be saved by', async () => {
    const response = await fetch(`${url}/film`);
    expect((await response.arrayBuffer()).byteLength).toBe(1_000);
    const disposition = response.headers.get('content-disposition')!;
    expect(disposition).toContain(`filename*=UTF-8''${encodeURIComponent('Ebbe & Flut „%“.mp4')}`);
    expect(disposition).toContain('filename="Ebbe & Flut ___.mp4"');
  });
  it('are sent in the parts that are asked for', async () => {
    const part = await fetch(`${url}/film`, { headers: { Range: 'bytes=990-' } });
    expect([part.status, part.headers.get('content-range')]).toEqual([206, 'bytes 990-999/1000']);
    const past = await fetch(`${url}/film`, { headers: { Range: 'bytes=5000-' } });
    expect(past.status).toBe(416);
  });
  it('that have gone are told as such, with no path', async () => {
    const response = await fetch(`${url}/gone`);
    expect(response.status).toBe(404);
    expect(await response.text()).not.toContain(folder);
  });
});

describe('the built app', () => {
  it('answers its own addresses with its page, which is asked for anew each time', async () => {
    const response = await fetch(`${url}/lessons/some-lesson/tidy`);
    expect(await response.text()).toContain('Under Chalk');
    expect(response.headers.get('cache-control')).toBe('no-cache');
  });
  it('lets what carries a hash be kept for ever', async () => {
    const response = await fetch(`${url}/_expo/entry-abc.js`);
    expect(response.headers.get('cache-control')).toContain('immutable');
  });
  it('gives nothing outside its folder, and tells no path', async () => {
    for (const path of ['/..%2fsecret.txt', '/%2e%2e/secret.txt', '/missing.js']) {
      const response = await fetch(url + path);
      const text = await response.text();
      expect([path, text.includes('not for you'), text.includes(folder)]).toEqual([
        path,
        false,
        false,
      ]);
      expect(response.status).toBeGreaterThanOrEqual(400);
    }
  });
});

describe('problems', () => {
  it('that nobody expected are written down and told without their trace', async () => {
    const response = await fetch(`${url}/broken`);
    expect(response.status).toBe(500);
    expect(await response.text()).not.toContain(folder);
    expect(logged.join()).toContain('GET /broken');
  });
  it('of a full disk are told as such', async () => {
    const response = await fetch(`${url}/full`);
    expect([response.status, ((await response.json()) as { code: string }).code]).toEqual([
      507,
      'disk-full',
    ]);
  });
});

describe('who asks', () => {
  const asked = (remoteAddress: string, forwarded: string) =>
    ({ req: { socket: { remoteAddress } }, get: () => forwarded }) as unknown as Context;
  const front = { origin: null, secure: true, proxies: ['127.0.0.1', '10.0.0.2'] };
  it('is told by trusted servers only, and only of what they have seen themselves', () => {
    expect(callerOf(asked('203.0.113.5', '1.2.3.4'), front)).toBe('203.0.113.5');
    expect(callerOf(asked('::ffff:127.0.0.1', '203.0.113.5'), front)).toBe('203.0.113.5');
    // What is left of the first untrusted one may have been made up.
    expect(callerOf(asked('127.0.0.1', '1.2.3.4, 203.0.113.5, 10.0.0.2'), front)).toBe(
      '203.0.113.5',
    );
    expect(callerOf(asked('127.0.0.1', ''), front)).toBe('127.0.0.1');
  });
  it('is a network of IPv6, however its addresses are written', () => {
    const networks = [
      '2001:db8:12:34::1',
      '2001:0DB8:0012:0034:ffff:1:2:3',
      '2001:db8:12:34:5::',
    ].map((address) => callerOf(asked(address, ''), front));
    expect(new Set(networks)).toEqual(new Set(['2001:db8:12:34::/64']));
    expect(callerOf(asked('::1', ''), front)).toBe('0:0:0:0::/64');
    expect(callerOf(asked('fe80::1%eth0', ''), front)).toBe('fe80:0:0:0::/64');
  });
});
