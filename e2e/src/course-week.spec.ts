import { expect, test, type Page } from '@playwright/test';
import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { startPracticeSite, type PracticeSite } from '@under-chalk/practice/site';
import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { openBrowser, PHONE, WIDE } from './browser';
import { fine, violations } from './checks';
import { setDemo, WELCOME } from './demo';
import { makeLargeFilm } from './large-film';
import { ffmpeg } from './media';
import { ROOT } from './server';

/** A week of a course in the practice course site: it joins by itself, its students answer in it and have scores, and hand in a film. */

const demo = setDemo();
const CLASS = 'class-coastal-navigation';
let site: PracticeSite;
test.beforeAll(async () => {
  site = await startPracticeSite({ toolOrigin: demo.server.url });
});
test.afterAll(() => site.stop());

const sites = () => demo.server.ask<JoinedSite[]>('GET', '/api/course-sites');
const as = async (page: Page, name: string) => {
  await page.goto(site.url);
  await page.getByRole('button', { name }).click();
};
const choose = async (page: Page) => {
  await page.goto(`${site.url}/course`);
  await page.locator('#week').selectOption('Week 4');
  await page.getByRole('button', { name: 'Choose a film from Under Chalk' }).click();
  return page.frameLocator('iframe');
};

test('the site joins by itself, at an address that is made for it on a phone', async () => {
  const [own, other] = [
    await openBrowser({ viewport: PHONE }),
    await openBrowser({ viewport: WIDE }),
  ];
  await own.page.goto(`${demo.server.url}/classes/course-sites`);
  await own.page.getByRole('button', { name: 'Join a course site' }).click();
  await own.page.getByRole('button', { name: 'Make an address for joining' }).press('Enter');
  const address = own.page
    .getByRole('list', { name: 'Address for joining' })
    .getByText('/lti/register/');
  await expect(address).toBeVisible();
  await fine(own.page);

  await as(other.page, 'Ottilie Marsh');
  await other.page.getByRole('link', { name: 'Tools' }).click();
  await other.page.getByRole('textbox').fill(await address.innerText());
  await other.page.getByRole('button', { name: 'Let it join' }).click();
  const frame = other.page.frameLocator('iframe');
  await expect(frame.getByText('Join this course site?')).toBeVisible();
  expect(await violations(other.page)).toEqual([]);
  await frame.getByRole('button', { name: 'Join it' }).click();
  // It closes by itself.
  await expect(other.page.getByText('Under Chalk has joined')).toBeVisible();
  await expect(own.page.getByText(/ has joined\.$/)).toBeVisible();
  await expect(own.page.getByRole('button', { name: 'Join a course site' })).toBeFocused();
  await fine(own.page);

  // Its course is of a class from then on.
  const editor = await choose(other.page);
  await expect(editor.getByText('This course has no class in Under Chalk yet.')).toBeVisible();
  await own.page.reload();
  await own.page.getByRole('button', { name: /^Class for “Coastal navigation/ }).click();
  await own.page.getByRole('radio', { name: 'Coastal navigation for beginners' }).click();
  await own.page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect.poll(async () => (await sites())[0]?.courses[0]?.classId).toBe(CLASS);
  expect(own.complaints).toEqual([]);
  await own.close();
  await other.close();
});

test('two students answer in the course at once; the course has their scores, their teacher their answers', async () => {
  const { server } = demo;
  await server.edit(WELCOME, {
    ...{ do: 'set-interaction', id: 'interaction-of-week-four' },
    interaction: {
      ...{ id: 'interaction-of-week-four', takeId: 'take-welcome-four', atUs: 5_000_000 },
      text: 'What do we plot this week?',
      does: {
        ...{ is: 'question', waits: true, told: { right: 'Across the estuary.', wrong: '' } },
        asked: {
          by: 'one',
          options: [
            { text: 'a course to steer', right: true },
            { text: 'a tide table', right: false },
          ],
        },
      },
    },
  });
  const { interactions } = (await server.lesson(WELCOME)).decisions;
  expect(interactions.map(({ id }) => id)).toContain('interaction-of-week-four');
  const [link] = await server.ask<ShareLink[]>('GET', `/api/lessons/${WELCOME}/share-links`);
  await server.ask('POST', `/api/share-links/${link!.id}/versions`, { size: '720p' });

  const [own, editor, bram, sunniva] = [
    await openBrowser({ viewport: PHONE }),
    await openBrowser({ viewport: WIDE }),
    await openBrowser({ viewport: PHONE }),
    await openBrowser({ viewport: WIDE }),
  ];
  await as(editor.page, 'Ottilie Marsh');
  const frame = await choose(editor.page);
  expect(await violations(editor.page)).toEqual([]);
  await frame.getByRole('radio', { name: /^How many of its questions/ }).check();
  await frame.getByRole('button', { name: /^Week four: welcome/ }).click();
  await expect(editor.page.getByRole('link', { name: 'Week four: welcome' })).toBeVisible();

  const answers = async ({ page }: typeof bram, name: string, option: string) => {
    await as(page, name);
    await page.getByRole('link', { name: 'Week four: welcome' }).click();
    const film = page.frameLocator('iframe');
    await film.getByRole('button', { name: 'Play', exact: true }).click();
    const card = film.getByRole('group', { name: 'What do we plot this week?' });
    await card.getByRole('radio', { name: option }).click({ timeout: 120_000 });
    await card.getByRole('button', { name: 'Answer', exact: true }).click();
    await expect(card.getByRole('button', { name: 'Change answer' })).toBeVisible();
  };
  await Promise.all([
    answers(bram, 'Bram Okafor', 'a course to steer'),
    answers(sunniva, 'Sunniva Petel', 'a tide table'),
  ]);
  await expect.poll(() => site.scores.length, { timeout: 120_000 }).toBe(2);
  await editor.page.goto(`${site.url}/scores`);
  const row = (name: string) => editor.page.getByRole('row', { name });
  await expect(row('Bram Okafor')).toContainText('1 of 1, done');
  await expect(row('Sunniva Petel')).toContainText('0 of 1, done');
  await expect(row('Ines Carrow')).toContainText('–');
  // Each sees their own, and nobody else’s.
  await bram.page.goto(`${site.url}/scores`);
  await expect(bram.page.getByRole('row', { name: 'Sunniva Petel' })).toHaveCount(0);

  await demo.openAt(own.page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await own.page.getByRole('button', { name: 'More to do with this link' }).first().click();
  await own.page.getByRole('menuitem', { name: 'Viewers…' }).click();
  const list = own.page.getByRole('list', { name: 'What was answered' });
  await expect(list).toContainText('2 answers · 1 right');
  await expect(list).toContainText('Sunniva Petel: a tide table');
  await own.page.goto(`${server.url}/classes/course-sites`);
  await expect(own.page.getByText('It has been given 2 scores.')).toBeVisible();
  await fine(own.page);

  // The site is away: what it isn’t told now is told later.
  site.goAway(true);
  const card = sunniva.page
    .frameLocator('iframe')
    .getByRole('group', { name: 'What do we plot this week?' });
  await card.getByRole('radio', { name: 'a course to steer' }).click();
  await card.getByRole('button', { name: 'Change answer' }).click();
  await expect.poll(async () => (await sites())[0]!.scores.waiting, { timeout: 120_000 }).toBe(1);
  await own.page.reload();
  await expect(own.page.getByText(/one score can’t be given just now/)).toBeVisible();
  await fine(own.page);
  site.goAway(false);
  await own.page.getByRole('button', { name: /its scores again now$/ }).press('Enter');
  await expect.poll(() => site.scores.every(({ given }) => given === 1)).toBe(true);
  await expect(own.page.getByText('It has been given 2 scores.', { exact: true })).toBeVisible();
  expect(own.complaints).toEqual([]);
  for (const one of [own, editor, bram, sunniva]) await one.close();
});

test('what is on now stands in the course’s news, put there once and for all', async () => {
  const { key } = await demo.server.ask<{ key: string }>('POST', `/api/classes/${CLASS}/page`);
  const { page, close } = await openBrowser({ viewport: PHONE });
  await as(page, 'Ottilie Marsh');
  await page.getByRole('link', { name: 'News' }).click();
  await page.getByLabel('What is new').fill('This week’s film:');
  const code = `<iframe src="${demo.server.url}/s/${key}/now" title="On now"></iframe>`;
  await page.getByLabel('Code for a frame').fill(code);
  await page.getByRole('button', { name: 'Put it up' }).click();
  await as(page, 'Ines Carrow');
  await page.getByRole('link', { name: 'News' }).click();
  const frame = page.frameLocator('iframe');
  await expect(frame.getByRole('main', { name: 'Week four: welcome' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await close();
});

test('a film is made to fit what an assignment says it takes, and is handed in there', async () => {
  const editor = await openBrowser({ viewport: WIDE });
  await as(editor.page, 'Ottilie Marsh');
  await editor.page.locator('#assign-week').selectOption('Week 4');
  await editor.page.getByLabel('Title').fill('Your passage, explained');
  await editor.page.getByLabel('At most so many MB').fill('1');
  await editor.page.getByLabel('At most so many minutes').fill('1');
  await editor.page.getByRole('button', { name: 'Put the assignment in' }).click();
  await editor.page.getByRole('link', { name: 'Your passage, explained' }).click();
  const said = await editor.page.getByText(/^A film as a file/).innerText();
  const files: string[] = [];
  const submission = async (file: string): Promise<void> => {
    files.push(file);
    await editor.page.goto(`${site.url}/item/${site.items.at(-1)!.id}`);
    await editor.page.getByLabel('Your film').setInputFiles(file);
    await editor.page.getByRole('button', { name: 'Hand it in' }).click();
  };

  // What it says is what the place’s limits become.
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const id = 'lesson-of-the-passage';
  const film = await makeLargeFilm(demo.server, demo.server.home, id);
  await page.goto(`${demo.server.url}/lessons/${id}/plan`);
  await page.getByRole('button', { name: 'Add a destination' }).press('Enter');
  await page.getByLabel('Name of the place').fill('The passage assignment');
  const words = page.getByLabel('What the place says of its limits');
  await words.fill('A film, please.');
  await expect(page.getByText('No limit is found in it.')).toBeVisible();
  await words.fill(said);
  await expect(page.getByText('Taken from it: at most 1 min, at most 1 MB.')).toBeVisible();
  await expect(page.getByLabel('At most as long as')).toHaveValue('1:00');
  await expect(page.getByLabel('At most as large as')).toHaveValue('1');
  await fine(page);
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByRole('radio', { name: /^The passage assignment/ })).toBeChecked();

  await demo.openAt(page, `/lessons/${id}/hand-out`, 'Files');
  await expect(page.getByText(/takes 1 MB, and it has/).first()).toBeVisible();
  const whole = join(demo.server.home, 'films', `${film.id}.mp4`);
  await submission(whole);
  await expect(editor.page.getByText('Too large: at most 1 MB and 1 minute.')).toBeVisible();
  await page.getByRole('button', { name: 'Make it fit 1 MB' }).first().click();
  const fitted = page.getByRole('button', { name: /^Save it fitted/ });
  await expect(fitted).toBeVisible({ timeout: 120_000 });
  const saving = page.waitForEvent('download');
  await fitted.click();
  const file = join(ROOT, '.build', 'passage.mp4');
  await (await saving).saveAs(file);
  expect((await stat(file)).size).toBeLessThanOrEqual(1_000_000);
  await submission(file);
  await expect(editor.page.getByText('“passage.mp4” is handed in.')).toBeVisible();
  // Longer than it may be, and no film at all: however small.
  const long = join(ROOT, '.build', 'long.mp4');
  ffmpeg(
    ...['-y', '-f', 'lavfi', '-i', 'color=s=64x64:r=1:d=90', '-pix_fmt', 'yuv420p'],
    ...['-c:v', 'libx264', long],
  );
  await submission(long);
  await expect(editor.page.getByText('Too long: at most 1 MB and 1 minute.')).toBeVisible();
  await submission(join(ROOT, 'package.json'));
  await expect(editor.page.getByText('That is no film.')).toBeVisible();
  await editor.page.goto(`${site.url}/item/${site.items.at(-1)!.id}`);
  await expect(editor.page.getByRole('listitem')).toHaveCount(1);
  for (const made of [file, long]) await rm(made);
  expect(complaints).toEqual([]);
  await close();
  await editor.close();
});
