import { expect, test } from '@playwright/test';
import { openBrowser, PHONE } from './browser';
import { fine } from './checks';
import { setDemo, WELCOME } from './demo';

/** What lessons take up, and what of it can go. */

const demo = setDemo();

test('only the film of a lesson is kept: its link plays, its takes come back from the bin', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  await page.getByRole('link', { name: 'Storage', exact: true }).click();
  const row = page
    .getByRole('list', { name: 'Lessons by size' })
    .getByRole('listitem')
    .filter({ hasText: 'Week four: welcome' });
  await expect(row).toContainText(/footage \d+ kB · films [\d.]+ MB/);
  await fine(page);
  await row.getByRole('button', { name: 'More to do with Week four: welcome' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: /^Keep film only/ }).press('Enter');
  // Asked first, with the way out under the finger.
  await expect(row.getByRole('button', { name: 'Keep everything' })).toBeFocused();
  await fine(page);
  await page.keyboard.press('Enter');
  expect((await demo.server.lesson(WELCOME)).takes.length).toBeGreaterThan(0);
  await row.getByRole('button', { name: 'More to do with Week four: welcome' }).click();
  await page.getByRole('menuitem', { name: /^Keep film only/ }).click();
  await row.getByRole('button', { name: 'Yes, keep film only: Week four: welcome' }).click();
  await expect(row).not.toContainText('footage');
  await page.getByRole('button', { name: 'Clear cache' }).click();
  await expect(page.getByText(/^The cache uses/)).toHaveCount(0);

  // Students watch on, and see its cover.
  const path = await demo.watchPath();
  const cover = await fetch(`${demo.server.url}/api/watch/${path.split('/').pop()}/cover.jpg`);
  expect(cover.status).toBe(200);
  await page.goto(demo.server.url + path);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => page.evaluate(() => document.querySelector('video')!.currentTime))
    .toBeGreaterThan(1);
  await expect(page.getByRole('button', { name: /as PDF/ })).toHaveCount(0);

  await page.goto(`${demo.server.url}/lessons/${WELCOME}/hand-out`);
  await expect(page.getByText('Only its film was kept.')).toBeVisible();
  await fine(page);
  await page.goto(`${demo.server.url}/bin`);
  await page
    .getByRole('button', { name: /^Restore: Take of/ })
    .first()
    .click();
  await expect.poll(async () => (await demo.server.lesson(WELCOME)).takes.length).toBe(1);
  expect(complaints).toEqual([]);
  await close();
});
