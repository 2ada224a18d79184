import { expect, test } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { openBrowser, PHONE } from './browser';
import { fine, fineAtBothSizes } from './checks';
import { setDemo, TABLE } from './demo';

/** A film that its title says is for somebody. */

const demo = setDemo();
const TITLE = 'For Bram: your tide table';

test('handed out with others to their classes, it goes to that student all the same', async () => {
  await demo.server.edit(TABLE, { do: 'plan', set: { title: TITLE } });
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  await page.getByRole('button', { name: `More to do with ${TITLE}`, exact: true }).click();
  await page.getByRole('menuitem', { name: 'Choose several…' }).click();
  await page.getByRole('button', { name: 'Hand out to their classes' }).click();
  await expect(
    page.getByText('One lesson handed out, only to whom the title names.'),
  ).toBeVisible();
  await fine(page);
  const [given] = await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${TABLE}/share-links`);
  expect(given!.watchers.map(({ name }) => name)).toEqual(['Bram Okafor']);
  await close();
});

test('a film whose title names a student is that student’s alone, until others are chosen', async () => {
  await demo.server.edit(TABLE, { do: 'plan', set: { title: TITLE } });
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(`${demo.server.url}/lessons/${TABLE}/hand-out`);
  const grantee = page.getByRole('button', { name: /^Who may watch/ });
  await expect(grantee).toContainText('Bram Okafor');
  const why = page.getByText(/^The title names Bram Okafor, so/);
  await expect(why).toBeVisible();
  await fineAtBothSizes(page);
  const newest = async () =>
    (await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${TABLE}/share-links`))[0];
  const before = (await newest())?.id;
  await page.getByRole('button', { name: 'Hand it out', exact: true }).click();
  await expect.poll(async () => (await newest())?.id).not.toBe(before);
  await expect(page.getByText('On the pages of Bram Okafor').first()).toBeVisible();
  const given = (await newest())!;
  expect(given.watchers.map(({ name }) => name)).toEqual(['Bram Okafor']);

  // What was chosen counts, whatever the title says.
  await grantee.click();
  await page.getByRole('checkbox', { name: /^Anyone with the link/ }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(why).toHaveCount(0);
  await page.getByRole('button', { name: 'Make a link and copy it' }).click();
  await expect.poll(async () => (await newest())?.id).not.toBe(given.id);
  expect((await newest())!.watchers.map(({ grantee: { is } }) => is).sort()).toEqual([
    'anyone',
    'student',
  ]);
  await close();
});
