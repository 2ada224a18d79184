import { expect, test, type Page } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { openBrowser, PHONE } from './browser';
import { fine, fineAtBothSizes } from './checks';
import { setDemo, TABLE } from './demo';

/** The list of a teacher of many years: told apart, drawn as it is looked through, and several lessons at a time. */

const demo = setDemo();
const CLASS_NAME = 'Coastal navigation for beginners';
const MANY = 150;

const rows = () => demo.server.ask<LessonRow[]>('GET', '/api/lessons');
const ofTitle = async (title: string) => (await rows()).find((row) => row.title === title)!;
const chooseFrom = async (page: Page, title: string) => {
  await page.getByLabel('Find a lesson').fill(title);
  await page.getByRole('button', { name: `More to do with ${title}`, exact: true }).click();
  await page.getByRole('menuitem', { name: 'Choose several…' }).click();
};

test.beforeAll(async () => {
  for (let index = 0; index < MANY; index++) {
    await demo.server.ask('POST', '/api/lessons', {
      ...{ id: `lesson-knot-${index}`, title: `Knot number ${index}` },
    });
  }
});

test('what isn’t handed out is told apart; more are drawn as they come into view', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  const items = page.getByRole('link', { name: /^Knot number/ });
  await expect(items.first()).toBeVisible();
  const first = await items.count();
  expect(first).toBeLessThan(MANY);
  await fineAtBothSizes(page);
  // By scrolling, all of them come.
  await expect
    .poll(async () => {
      await items.last().scrollIntoViewIfNeeded();
      return items.count();
    })
    .toBe(MANY);
  await page.getByRole('radio', { name: 'Handed out', exact: true }).click();
  await expect(page.getByRole('link', { name: /^Week four: welcome/ })).toBeVisible();
  await expect(items).toHaveCount(0);
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('radio', { name: 'Not handed out' })).toBeChecked();
  await expect(items.first()).toBeVisible();
  await page.getByRole('radio', { name: 'All', exact: true }).click();
  expect(complaints).toEqual([]);
  await close();
});

test('several are moved to a unit, thrown away and handed out to their class; each can be taken back', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  await chooseFrom(page, 'Knot number 17');
  await expect(page.getByRole('checkbox', { name: /^Knot number 17:/ })).toBeChecked();
  await page.getByLabel('Find a lesson').fill('Knot number 18');
  await page.getByRole('checkbox', { name: /^Knot number 18:/ }).click();
  await expect(page.getByText('2 lessons chosen')).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Move…' }).click();
  await page.getByLabel('Class', { exact: true }).fill(CLASS_NAME);
  await page.getByLabel('Unit or week', { exact: true }).fill('Week 2');
  await fine(page);
  await page.getByRole('button', { name: 'Move 2 lessons' }).click();
  await expect(page.getByText(`2 lessons moved to ${CLASS_NAME}, Week 2.`)).toBeVisible();
  expect((await ofTitle('Knot number 17')).unit).toBe('Week 2');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect.poll(async () => (await ofTitle('Knot number 17')).unit).toBe('');

  await chooseFrom(page, 'Knot number 18');
  await page.getByRole('button', { name: 'More to do with those that are chosen' }).click();
  await page.getByRole('menuitem', { name: 'Throw them away' }).click();
  await expect(page.getByText('One lesson in the bin.')).toBeVisible();
  expect(await ofTitle('Knot number 18')).toBeUndefined();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect.poll(async () => (await ofTitle('Knot number 18'))?.title).toBe('Knot number 18');

  // In the archive it isn't in the way, and is found there.
  await chooseFrom(page, 'Knot number 148');
  await page.getByRole('button', { name: 'More to do with those that are chosen' }).click();
  await page.getByRole('menuitem', { name: 'Put them into the archive' }).click();
  await expect(page.getByText('One lesson in the archive.')).toBeVisible();
  const late = page.getByRole('link', { name: /^Knot number 148\b/ });
  await page.getByLabel('Find a lesson').fill('Knot number 148');
  await expect(page.getByText('One lesson there is called so.')).toBeVisible();
  await page.getByRole('button', { name: 'Look there' }).click();
  await expect(page.getByRole('radio', { name: 'Archive', exact: true })).toBeChecked();
  await expect(late).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'More to do with Knot number 148', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Take it out of the archive' }).click();
  await expect(page.getByText('One lesson among the others again.')).toBeVisible();
  // Nothing is left in it: all are shown again.
  await expect(page.getByRole('radio', { name: 'Archive', exact: true })).toHaveCount(0);
  await expect(late).toBeVisible();
  expect((await ofTitle('Knot number 148')).archived).toBe(false);

  // What can't be handed out is told of, and keeps no other from it.
  await chooseFrom(page, 'Knot number 19');
  await page.getByLabel('Find a lesson').fill('Reading a tide table');
  await page.getByRole('checkbox', { name: /^Reading a tide table:/ }).click();
  await page.getByLabel('Find a lesson').fill('Week four: welcome');
  await page.getByRole('checkbox', { name: /^Week four: welcome:/ }).click();
  await page.getByRole('button', { name: 'Hand out to their classes' }).click();
  await expect(page.getByText('One lesson handed out, each to its class.')).toBeVisible();
  await expect(
    page.getByText(
      'One lesson left out: handed out already. One lesson left out: nothing in the film.',
    ),
  ).toBeVisible();
  await fine(page);
  const [given] = await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${TABLE}/share-links`);
  expect(given!.watchers.map(({ name }) => name)).toEqual([CLASS_NAME]);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect.poll(async () => (await ofTitle('Reading a tide table')).handedOut).toBe(false);
  expect(complaints).toEqual([]);
  await close();
});
