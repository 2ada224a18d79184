import { expect, test, type Page } from '@playwright/test';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import { startPracticeSite, type PracticeSite } from '@under-chalk/practice/site';
import { execFile as execFileThen } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { openBrowser, PHONE, WIDE } from './browser';
import { fine, violations } from './checks';
import { setDemo, WELCOME } from './demo';
import { ROOT } from './server';

/** A course site sends its people here: joined by hand, a film put into its course, opened by a student there. */

const execFile = promisify(execFileThen);
const demo = setDemo();
const CLASS_NAME = 'Coastal navigation for beginners';
let site: PracticeSite;
test.beforeAll(async () => {
  // Another site to a browser than the course’s, as it is everywhere but on one machine.
  const { port } = new URL(demo.server.url);
  site = await startPracticeSite({ toolOrigin: `http://localhost:${port}` });
});
test.afterAll(() => site.stop());

const courses = async () =>
  (await demo.server.ask<JoinedSite[]>('GET', '/api/course-sites')).flatMap((one) => one.courses);
const as = async (page: Page, name: string) => {
  await page.goto(site.url);
  await page.getByRole('button', { name }).click();
};

test('it is joined by hand, on a phone, by what it says of itself', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${demo.server.url}/classes`);
  await page.getByRole('link', { name: 'Course sites' }).click();
  await expect(page.getByText('None is joined yet.')).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Join a course site' }).click();
  await expect(page.getByText(`${demo.server.url}/lti/login`)).toBeVisible();
  await page.getByRole('button', { name: 'Join it' }).click();
  await expect(page.getByText('This is needed.').first()).toBeVisible();
  await fine(page);
  const { name, issuer, clientId, authAddress, tokenAddress, keysAddress } = site.joined;
  for (const [label, value] of [
    ['Name', name],
    ['Issuer', issuer],
    ['Client ID', clientId],
    ['Authorization address', authAddress],
    ['Token address', tokenAddress],
    ['Keys address', keysAddress],
  ] as const)
    await page.getByRole('textbox', { name: label, exact: true }).fill(value);
  await page.getByRole('button', { name: 'Join it' }).press('Enter');
  const list = page.getByRole('list', { name: 'Course sites' });
  await expect(list).toContainText(name);
  await expect(list).toContainText('Nobody has come from it yet.');
  await expect(page.getByRole('button', { name: 'Join a course site' })).toBeFocused();
  await fine(page);
  expect(complaints).toEqual([]);
  await close();
});

test('a film is chosen in its editor, stands in its course, and a student watches it there', async () => {
  const editor = await openBrowser({ viewport: WIDE });
  await as(editor.page, 'Ottilie Marsh');
  await editor.page.locator('#week').selectOption('Week 4');
  await editor.page.getByRole('button', { name: 'Choose a film from Under Chalk' }).click();
  const frame = editor.page.frameLocator('iframe');
  await expect(frame.getByText('This course has no class in Under Chalk yet.')).toBeVisible();

  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(`${demo.server.url}/classes/course-sites`);
  await page.getByRole('button', { name: /^Class for “Coastal navigation/ }).click();
  await page.getByRole('radio', { name: CLASS_NAME }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect.poll(async () => (await courses())[0]?.classId).toBe('class-coastal-navigation');
  await fine(page);
  await page.getByRole('button', { name: /^Bring the students of/ }).click();
  await expect(page.getByText('5 students in the course, none of them new here.')).toBeVisible();
  await fine(page);
  await close();

  await editor.page.goto(`${site.url}/course`);
  await editor.page.locator('#week').selectOption('Week 4');
  await editor.page.getByRole('button', { name: 'Choose a film from Under Chalk' }).click();
  await frame.getByRole('button', { name: /^Week four: welcome/ }).click();
  // Sent back by itself, and out of the frame.
  const item = editor.page.getByRole('link', { name: 'Week four: welcome' });
  await expect(item).toBeVisible();
  await editor.close();

  // By name, for their teacher.
  const [link] = await demo.server.ask<{ id: string }[]>(
    'GET',
    `/api/lessons/${WELCOME}/share-links`,
  );
  const viewers = () =>
    demo.server.ask<{ name: string; times: number }[]>(
      'GET',
      `/api/share-links/${link!.id}/viewers`,
    );
  const timesOpened = async () =>
    (await viewers()).find(({ name }) => name === 'Tomas Wray')?.times ?? 0;
  const before = await timesOpened();

  const student = await openBrowser({ viewport: WIDE });
  await as(student.page, 'Tomas Wray');
  await student.page.getByRole('link', { name: 'Week four: welcome' }).click();
  const film = student.page.frameLocator('iframe');
  await film.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => film.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime), {
      timeout: 30_000,
    })
    .toBeGreaterThan(1);
  await student.close();
  await expect.poll(timesOpened).toBe(before + 1);
});

test('a browser that blocks cookies in frames opens it all the same: through the course’s page, or in a new window', async () => {
  const { page, context, close } = await openBrowser({ viewport: PHONE });
  await page.route(/\/lti\/launch/, async (route) => {
    await context.clearCookies({ name: /^lti-/ });
    await route.continue();
  });
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).pathname));
  await as(page, 'Ines Carrow');
  const open = () => page.getByRole('link', { name: 'Week four: welcome' }).click();
  await open();
  const film = page.frameLocator('iframe');
  await expect(film.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  // Kept by the course’s page, and got from there.
  expect(asked.filter((path) => path === '/lti/storage.js')).toHaveLength(2);

  // Where the course’s page keeps nothing:
  site.offerStorage(false);
  await page.goto(`${site.url}/course`);
  await open();
  const link = film.getByRole('link', { name: 'Open in a new window' });
  await expect(link).toBeVisible();
  expect(await violations(page)).toEqual([]);
  const [own] = await Promise.all([context.waitForEvent('page'), link.press('Enter')]);
  await own.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => own.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(0.5);
  await close();
});

test('the teacher is asked whether a new student already exists, and answers by keyboard', async () => {
  const student = await openBrowser({ viewport: WIDE });
  for (const [sub, name] of [
    ['newcomer-1', 'Bram Okafor'],
    ['newcomer-2', 'Ines Carrow'],
  ]) {
    site.change((own) => ({ ...own, sub, name, email: `${sub}@lantern-quay.example` }));
    await as(student.page, 'Tomas Wray');
    await student.page.getByRole('link', { name: 'Week four: welcome' }).click();
    const film = student.page.frameLocator('iframe');
    await film.getByRole('button', { name: 'Play', exact: true }).waitFor();
  }
  await student.close();
  site.change(null);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${demo.server.url}/classes/course-sites`);
  const asked = page.getByRole('group', { name: /the same person\?$/ });
  await expect(asked).toHaveCount(2);
  await fine(page);
  const [one] = await courses();
  const students = async () =>
    (await demo.server.ask<ClassView>('GET', `/api/classes/${one!.classId}`)).students.length;
  const before = await students();
  await page.getByRole('button', { name: /^Bram Okafor .* are different people$/ }).press('Enter');
  const status = page.getByRole('status').filter({ hasText: 'Bram Okafor' });
  await expect(status).toHaveText('Bram Okafor stays a separate student.');
  await expect(status).toBeFocused();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: 'Ines Carrow and Ines Carrow are one student now.' }),
  ).toBeFocused();
  await expect(asked).toHaveCount(0);
  expect(await students()).toBe(before - 1);
  await fine(page);
  expect(complaints).toEqual([]);
  await close();
});

test('it is parted from', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await page.goto(`${demo.server.url}/classes/course-sites`);
  await page.getByRole('button', { name: `More to do with ${site.joined.name}` }).click();
  await page.getByRole('menuitem', { name: 'Part from it…' }).click();
  await fine(page);
  await page.getByRole('button', { name: 'Part from it', exact: true }).click();
  await expect(page.getByText('None is joined yet.')).toBeVisible();
  expect(complaints).toEqual([]);
  await close();
});

test('for the demo it is joined, and its course furnished, once', async () => {
  const furnished = await startPracticeSite({ toolOrigin: demo.server.url });
  const furnish = () =>
    execFile(process.execPath, [
      ...[join(ROOT, 'server', 'dist', 'practice-furnish.js'), furnished.url, demo.server.url],
    ]);
  await furnish();
  expect(furnished.items.map(({ title }) => title)).toEqual([
    ...['Week four: welcome', 'Your passage, explained'],
  ]);
  await furnish();
  expect(furnished.items).toHaveLength(2);
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(furnished.url);
  await page.getByRole('button', { name: 'Ines Carrow' }).click();
  await page.getByRole('link', { name: 'Week four: welcome' }).click();
  const film = page.frameLocator('iframe');
  await expect(film.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'News' }).click();
  await expect(film.getByRole('main', { name: 'Week four: welcome' })).toBeVisible();
  await close();
  await furnished.stop();
});
