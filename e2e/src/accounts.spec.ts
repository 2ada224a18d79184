import { expect, test } from '@playwright/test';
import { openBrowser } from './browser';
import { RealServer } from './server';

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
  await expect(page.getByRole('heading', { name: 'Make it yours' })).toBeVisible();
  await expect.poll(() => server.printed).toContain('/sign-in?code=');
  const code = /code=([\w-]+)/.exec(server.printed)![1]!;

  await page.goto(`${server.url}/sign-in?code=not-the-code`);
  await page.getByLabel('Your name, as students see it').fill('Ottilie Marsh');
  await page.getByLabel('A passphrase', { exact: true }).fill('short');
  await page.getByLabel('The passphrase once more').fill('other');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText(/10 characters|too small|>=10/i)).toBeVisible();
  await page.getByLabel('A passphrase', { exact: true }).fill(PASSPHRASE);
  await page.getByLabel('The passphrase once more').fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('The set-up code is not right.')).toBeVisible();

  await page.getByLabel('Set-up code').fill(code);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await expect(page.getByText('Ottilie Marsh')).toBeVisible();
  await expect(page.getByText('No lesson yet.')).toBeVisible();
  await close();
});

test('nobody gets in without it, and a guesser has to wait', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(`${server.url}/lessons/anything-at-all/tidy`);
  await expect(page.getByLabel('Passphrase')).toBeVisible();
  expect((await fetch(`${server.url}/api/lessons`)).status).toBe(401);
  await page.getByLabel('Passphrase').fill('a guess');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('That is not the passphrase.')).toBeVisible();
  await page.getByLabel('Passphrase').fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Sign in' }).click();
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
  await page.getByLabel('Passphrase').fill(PASSPHRASE);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await server.kill();
  await server.up();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Lessons' })).toBeVisible();
  await close();
});
