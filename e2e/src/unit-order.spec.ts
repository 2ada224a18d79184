import { expect, test, type Page } from '@playwright/test';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { ClassPage } from '@under-chalk/core/contract/student-pages';
import { openBrowser, PHONE } from './browser';
import { fineAtBothSizes } from './checks';
import { setDemo, TABLE } from './demo';

/** The films of a week stand on the class's page as their teacher drags them. */

const demo = setDemo();
const CLASS = 'class-coastal-navigation';
const BOARD = 'lesson-rule-of-twelfths';
const WELCOME_TITLE = 'Week four: welcome';

const unitId = async () =>
  (await demo.server.ask<ClassView>('GET', `/api/classes/${CLASS}`)).units.find(
    ({ name }) => name === 'Week 4',
  )!.id;
const order = async () =>
  (
    await demo.server.ask<{ title: string }[]>(
      'GET',
      `/api/classes/${CLASS}/units/${await unitId()}/order`,
    )
  ).map(({ title }) => title);
const onPage = (page: Page) =>
  page
    .getByRole('list', { name: 'Now: Week 4' })
    .getByRole('link')
    .evaluateAll((links) => links.map((link) => link.getAttribute('aria-label')!.split(', ')[0]));

let titles: string[];
test.beforeAll(async () => {
  titles = [WELCOME_TITLE];
  for (const id of [TABLE, BOARD]) {
    await demo.server.edit(id, { do: 'plan', set: { unit: 'Week 4' } });
    titles.push((await demo.server.lesson(id)).decisions.plan.title);
    await demo.server.ask('POST', `/api/lessons/${id}/share-links`, {
      size: '720p',
      grants: [
        { grantee: { is: 'class', classId: CLASS }, availableFrom: null, availableUntil: null },
      ],
    });
  }
});

test('by keys, by pointer and by a menu; and it stays so', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const [welcome, table, board] = titles as [string, string, string];
  await page.goto(`${demo.server.url}/classes/${CLASS}`);
  await page.getByRole('button', { name: 'More to do with Week 4' }).click();
  await page.getByRole('menuitem', { name: 'Order of its films…' }).click();
  const list = page.getByRole('list', { name: 'Films of Week 4' });
  await expect(list.getByRole('listitem')).toHaveCount(3);
  await fineAtBothSizes(page);
  expect(await order()).toEqual([welcome, table, board]);

  const grip = (title: string) => page.getByRole('button', { name: `Move ${title}`, exact: true });
  await grip(board).focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText(`${board} is at place 2.`)).toBeAttached();
  await page.keyboard.press('Space');
  await expect.poll(order).toEqual([welcome, board, table]);

  await grip(welcome).evaluate((button) => button.scrollIntoView({ block: 'center' }));
  const from = (await grip(welcome).boundingBox())!;
  const to = (await grip(table).boundingBox())!;
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 40, { steps: 4 });
  await page.mouse.move(to.x + 20, to.y + to.height, { steps: 8 });
  await page.mouse.up();
  await expect.poll(order).toEqual([board, table, welcome]);

  await page.getByRole('button', { name: `More to do with ${table}` }).click();
  await page.getByRole('menuitem', { name: 'Move up' }).click();
  await expect.poll(order).toEqual([table, board, welcome]);
  await page.reload();
  const { key } = await demo.server.ask<ClassPage>('POST', `/api/classes/${CLASS}/page`);
  await page.goto(`${demo.server.url}/s/${key}`);
  await expect.poll(() => onPage(page)).toEqual([table, board, welcome]);

  // As it was, for the next.
  await demo.server.ask('POST', `/api/classes/${CLASS}/units/${await unitId()}/order`, {
    lessons: [],
  });
  expect(complaints).toEqual([]);
  await close();
});
