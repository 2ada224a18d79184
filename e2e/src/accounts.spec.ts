import { expect, test } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { openBrowser } from './browser';
import { violations } from './checks';
import { RealServer, ROOT } from './server';

/** An Under Chalk of one's own: the first start, signing in, and everybody else kept out. */

const PASSPHRASE = 'low water at half past nine';
// Each goes on where the one before left off.
test.describe.configure({ mode: 'serial' });

let server: RealServer;

test.beforeAll(async () => {
  server = await RealServer.start({ demo: false });
});
test.afterAll(() => server.remove());

test('the first start sets the passphrase with the code that was printed', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(server.url);
  await expect(page.getByRole('heading', { name: 'Set up Under Chalk' })).toBeVisible();
  await expect.poll(() => server.printed).toContain('/sign-in?code=');
  const code = /code=([\w-]+)/.exec(server.printed)![1]!;

  await page.goto(`${server.url}/sign-in?code=not-the-code`);
  await page.getByLabel('Your name, as students see it').fill('Ottilie Marsh');
  await page.getByLabel('Passphrase', { exact: true }).fill('short');
  await page.getByLabel('Repeat passphrase', { exact: true }).fill('other');
  await page.getByRole('button', { name: 'Finish set-up' }).click();
  await expect(page.getByText('Use at least 10 characters.')).toBeVisible();
  await expect(page.getByText('The two passphrases are different.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  // The first that is wrong has the focus.
  await expect(page.getByLabel('Passphrase', { exact: true })).toBeFocused();
  await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByLabel('Repeat passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Finish set-up' }).click();
  await expect(page.getByText('The set-up code is not right.')).toBeVisible();

  await page.getByLabel('Set-up code').fill(code);
  await page.getByRole('button', { name: 'Finish set-up' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await expect(page.getByText('Ottilie Marsh')).toBeVisible();
  await expect(page.getByText('No lesson yet.')).toBeVisible();
  await close();
});

test('nobody gets in without it, and a guesser has to wait', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(`${server.url}/you`);
  await expect(page.getByLabel('Passphrase', { exact: true })).toBeVisible();
  expect((await fetch(`${server.url}/api/lessons`)).status).toBe(401);
  await page.getByLabel('Passphrase', { exact: true }).fill('a guess');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('That is not the passphrase.')).toBeVisible();
  await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByLabel('Passphrase', { exact: true }).press('Enter');
  // Where one wanted to go.
  await expect(page.getByRole('heading', { name: 'You' })).toBeVisible();
  await page.goto(server.url);
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  // The session lives in a cookie that scripts can't read.
  expect(await page.evaluate(() => document.cookie)).toBe('');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await close();
});

test('a session outlives a restart of the server', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(`${server.url}/sign-in`);
  await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await server.kill();
  await server.up();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await close();
});

test('signs out, and back in with another passphrase', async () => {
  const { page, close } = await openBrowser({});
  const NEXT = 'high water at noon';
  const signIn = async (passphrase: string) => {
    await page.goto(`${server.url}/sign-in?to=%2Fyou`);
    await page.getByLabel('Passphrase', { exact: true }).fill(passphrase);
    await page.getByRole('button', { name: 'Sign in' }).click();
  };
  const change = async (now: string, next: string) => {
    await page.getByLabel('Current passphrase', { exact: true }).fill(now);
    await page.getByLabel('New passphrase', { exact: true }).fill(next);
    await page.getByRole('button', { name: 'Change passphrase' }).click();
    await expect(page.getByText('Passphrase changed.')).toBeVisible();
  };
  await signIn(PASSPHRASE);
  await page.getByLabel('Your name, as students see it').fill('O. Marsh');
  await page.getByRole('button', { name: 'Save name' }).click();
  await expect(page.getByText('Name saved.')).toBeVisible();
  await change(PASSPHRASE, NEXT);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Under Chalk' })).toBeVisible();
  await page.goto(server.url);
  await expect(page.getByLabel('Passphrase', { exact: true })).toBeVisible();
  await signIn(NEXT);
  await change(NEXT, PASSPHRASE);
  await close();
});

test('a forgotten passphrase is set anew where the app runs, while it runs', async () => {
  const set = spawnSync(process.execPath, [join(ROOT, 'server/dist/passphrase.js')], {
    env: { ...process.env, UNDER_CHALK_HOME: server.home },
    input: 'ebb and flow and slack\n',
    encoding: 'utf8',
  });
  expect([set.status, set.stdout]).toEqual([0, expect.stringContaining('It is set.')]);
  const { page, close } = await openBrowser({});
  await page.goto(`${server.url}/sign-in`);
  await page.getByLabel('Passphrase', { exact: true }).fill('ebb and flow and slack');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await close();
});
