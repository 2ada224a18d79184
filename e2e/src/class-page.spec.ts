import { expect, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openBrowser, PHONE, planLesson } from './browser';
import { fineAtBothSizes, violations } from './checks';
import { pagesPdf } from './made-materials';
import { setStage } from './stage';

/** What a class keeps for its next lessons. */

const stage = setStage();

test('a class keeps materials for its next lessons', async () => {
  const className = 'Evening class';
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const inClass = async (title: string) => {
    await planLesson(page, stage.server.url, title);
    await page.getByRole('link', { name: 'Plan' }).click();
    await page.getByLabel('Class', { exact: true }).fill(className);
    await page.getByLabel('Class', { exact: true }).press('Enter');
  };
  await inClass('The first');
  const [slides, saved] = [join(stage.folder, 'Slides.pdf'), join(stage.folder, 'Table.html')];
  await writeFile(slides, await pagesPdf(3));
  await writeFile(
    saved,
    '<!doctype html><title>Tide table</title><table><tr><th>Hour<th>Rise</tr><tr><td>1<td>0.5 m</tr></table>',
  );
  await page.getByLabel('Materials to bring in').setInputFiles([slides, saved]);
  await expect(page.getByText('3 pages', { exact: true })).toBeVisible();
  await expect(page.getByText('one page', { exact: true })).toBeVisible();
  for (const name of ['Slides', 'Table']) {
    const keep = page.getByRole('button', { name: `Keep ${name} for the class` });
    await keep.focus();
    await page.keyboard.press('Enter');
    await expect(keep).toBeHidden();
  }
  await expect(page.getByText('Kept for the class')).toHaveCount(2);
  expect(await violations(page)).toEqual([]);

  await inClass('The next');
  const kept = page.getByRole('list', { name: `Kept for ${className}` });
  await expect(kept.getByRole('listitem')).toHaveCount(2);
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Bring Slides in' }).click();
  await expect(page.getByText('Kept for the class')).toHaveCount(1);
  // What is kept no longer can be kept after all.
  await page.getByRole('button', { name: 'Keep Table no longer' }).click();
  await expect(page.getByText('Table is no longer kept for the class.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep it after all' }).click();
  await page.getByRole('button', { name: 'Bring Table in' }).click();
  await expect(page.getByText('Kept for the class')).toHaveCount(2);
  await expect(kept).toBeHidden();
  expect(complaints).toEqual([]);
  await close();
});
