import { expect, test } from '@playwright/test';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser } from './browser';
import { freePort, RealServer } from './server';

/** Behind a real nginx with TLS, as docs/operating.md has it. */

const PASSPHRASE = 'low water at half past nine';

let folder: string;
let server: RealServer;
let nginx: ChildProcess;
let address: string;

test.beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'under-chalk-proxy-'));
  const port = await freePort();
  address = `https://127.0.0.1:${port}`;
  server = await RealServer.start({
    demo: false,
    env: { UNDER_CHALK_ADDRESS: address, UNDER_CHALK_PROXIES: '127.0.0.1' },
  });
  execFileSync(
    'openssl',
    [
      ...['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=127.0.0.1'],
      ...['-keyout', join(folder, 'key.pem'), '-out', join(folder, 'cert.pem')],
    ],
    { stdio: 'ignore' },
  );
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off;
pid ${folder}/nginx.pid;
error_log ${folder}/error.log;
events {}
http {
  access_log off;
  client_body_temp_path ${folder}/body;
  proxy_temp_path ${folder}/proxy;
  fastcgi_temp_path ${folder}/fastcgi;
  uwsgi_temp_path ${folder}/uwsgi;
  scgi_temp_path ${folder}/scgi;
  server {
    listen 127.0.0.1:${port} ssl;
    ssl_certificate ${folder}/cert.pem;
    ssl_certificate_key ${folder}/key.pem;
    client_max_body_size 0;
    location / {
      proxy_pass http://127.0.0.1:${server.port};
      proxy_set_header Host $host;
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_request_buffering off;
    }
  }
}
`,
  );
  nginx = spawn('nginx', ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
});
test.afterAll(async () => {
  nginx.kill('SIGTERM');
  if (nginx.exitCode === null) await once(nginx, 'close');
  await server.remove();
  rmSync(folder, { recursive: true, force: true });
});

test('behind a server with TLS: set up, signed in and planned, with cookies that go no other way', async () => {
  const { page, context, close, complaints } = await openBrowser({
    switches: ['--ignore-certificate-errors'],
  });
  await expect.poll(() => server.printed).toContain('/sign-in?code=');
  // What is printed is the address that browsers use.
  const printed = /(https:\S+\/sign-in\?code=\S+)/.exec(server.printed)![1]!;
  expect(printed.startsWith(address)).toBe(true);
  const answer = await page.goto(printed);
  expect(answer!.headers()['strict-transport-security']).toContain('max-age=31536000');
  await page.getByLabel('Your name, as students see it').fill('Ottilie Marsh');
  await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByLabel('Repeat passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Finish set-up' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  const cookies = await context.cookies();
  expect(cookies.length).toBeGreaterThan(0);
  for (const cookie of cookies) expect([cookie.name, cookie.secure]).toEqual([cookie.name, true]);

  await page.getByLabel('What shall the next lesson teach?').fill('Tide heights');
  await page.getByRole('button', { name: 'Plan this lesson' }).click();
  await page.getByLabel('Class', { exact: true }).fill('Coastal navigation for beginners');
  const saved = page.waitForResponse((response) => response.url().endsWith('/edits'));
  await page.getByLabel('Class', { exact: true }).blur();
  expect((await saved).status()).toBe(200);

  // The server itself, asked past the one before it, takes no changes from its own plain address.
  const plain = await fetch(`${server.url}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Origin: server.url },
    body: JSON.stringify({ passphrase: PASSPHRASE }),
  });
  expect(plain.status).toBe(403);
  expect(complaints).toEqual([]);
  await close();
});
