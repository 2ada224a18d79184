import { expect, test } from '@playwright/test';
import { inOrder } from '@under-chalk/core/plan/topic';
import { openBrowser, WIDE } from './browser';
import { startEmpty } from './prepared-homes';
import type { RealServer } from './server';

let server: RealServer;
const lessonId = 'lesson-of-the-plan';

test.beforeAll(async () => {
  server = await startEmpty();
  await server.ask('POST', '/api/lessons', { id: lessonId, title: 'The rule of twelfths' });
});
test.afterAll(() => server.remove());

const decisions = async () => (await server.lesson(lessonId)).decisions;
const topics = async () => inOrder((await decisions()).topics).map((topic) => topic.text);

test('a outline is written, put in another order by keyboard and by hand, and kept', async () => {
  const { page, close, complaints } = await openBrowser({});
  await page.goto(`${server.url}/lessons/${lessonId}/plan`);
  for (const text of ['Why not evenly', 'One, two, three', 'Friday worked out']) {
    await page.getByLabel('Another topic').fill(text);
    await page.getByLabel('Another topic').press('Enter');
  }
  await expect.poll(topics).toEqual(['Why not evenly', 'One, two, three', 'Friday worked out']);
  await expect(page.getByLabel('Another topic')).toBeFocused();

  const words = 'In the first hour one twelfth.';
  await page.getByRole('button', { name: 'What to show and say for One, two, three' }).click();
  await page.getByLabel('Words to say for topic 2').fill(words);
  await page.getByLabel('To show for topic 2').fill('tides.example/table');
  await page.getByLabel('To show for topic 2').blur();
  await expect
    .poll(async () => (await decisions()).topics.find((topic) => topic.text.startsWith('One')))
    .toMatchObject({ words, show: 'tides.example/table' });
  await page.getByRole('button', { name: 'Fold in One, two, three' }).click();

  // By keyboard: the last one to the top.
  const grip = page.getByRole('button', { name: 'Move Friday worked out', exact: true });
  await grip.focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  for (let step = 0; step < 2; step++) {
    await page.keyboard.press('ArrowUp');
    await page.waitForTimeout(300);
  }
  await page.keyboard.press('Space');
  await expect.poll(topics).toEqual(['Friday worked out', 'Why not evenly', 'One, two, three']);

  // By hand: it back below the next.
  await grip.evaluate((button) => button.scrollIntoView({ block: 'center' }));
  const from = (await grip.boundingBox())!;
  const below = (await page
    .getByRole('button', { name: 'Move Why not evenly', exact: true })
    .boundingBox())!;
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + 60, { steps: 5 });
  await page.mouse.move(from.x + 20, below.y + 50, { steps: 8 });
  await page.waitForTimeout(300);
  await page.mouse.up();
  await expect.poll(topics).toEqual(['Why not evenly', 'Friday worked out', 'One, two, three']);

  await page.getByRole('button', { name: 'Remove Friday worked out' }).click();
  await expect.poll(topics).toEqual(['Why not evenly', 'One, two, three']);
  const back = page.getByRole('button', { name: 'Restore' });
  await expect(back).toBeFocused();
  await back.press('Enter');
  await expect.poll(topics).toHaveLength(3);
  await expect(page.getByLabel('Topic 2')).toBeFocused();
  await page.reload();
  await expect(page.getByLabel('Topic 2')).toHaveValue('Friday worked out');
  expect(complaints).toEqual([]);
  await close();
});

test('a destination’s limits can be changed, and another be added; every gauge follows', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await page.goto(`${server.url}/lessons/${lessonId}/plan`);
  const add = page.getByRole('button', { name: 'Add a destination' });
  await add.press('Enter');
  const name = page.getByLabel('Name of the place');
  await expect(name).toBeFocused();
  await page.getByRole('button', { name: 'Cancel' }).press('Enter');
  await expect(add).toBeFocused();
  await add.press('Enter');
  await page.getByRole('button', { name: 'Keep these limits' }).press('Enter');
  await expect(page.getByText('It needs a name.')).toBeVisible();
  await expect(name).toBeFocused();
  await page.getByLabel('Name of the place').fill('Evening board');
  await page.getByLabel('At least as long as').fill('2:00');
  await page.getByLabel('At most as long as').fill('1:30');
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByText('The most must be longer than the least.')).toBeVisible();
  await page.getByLabel('At most as long as').fill('four minutes');
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByText('Minutes and seconds, as 3:00; or nothing.')).toBeVisible();
  await expect(page.getByLabel('At most as long as')).toBeFocused();
  await page.getByLabel('At most as long as').fill('4:00');
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await expect(page.getByRole('radio', { name: /Evening board: 2 min to 4 min/ })).toBeChecked();
  await expect(page.getByRole('img', { name: /4 min to fill/ })).toBeVisible();
  await expect.poll(async () => (await decisions()).plan.destinationId).toMatch(/^[0-9a-f]{20}$/);

  await page.getByRole('button', { name: 'Change the limits of Evening board' }).click();
  await page.getByLabel('At most as long as').fill('3:00');
  await page.getByRole('button', { name: 'Keep these limits' }).click();
  await page.getByRole('button', { name: 'Lessons' }).click();
  await expect(page.getByRole('img', { name: /3 min to fill/ })).toBeVisible();
  await close();
});

test('what is being typed is never replaced by what comes back, trimmed', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(`${server.url}/lessons/${lessonId}/plan`);
  await page.getByLabel('Another topic').fill('Spring');
  await page.getByLabel('Another topic').press('Enter');
  const topic = page.getByRole('textbox', { name: /^Topic \d+$/ }).last();
  const title = page.getByLabel('What shall it teach?');
  for (const field of [topic, title]) {
    await field.fill('Tide');
    // Slowly: each part is saved, and comes back, before the next.
    for (const part of [' ', 'heights', ' ', 'today']) {
      const saved = page.waitForResponse((response) => response.url().endsWith('/edits'));
      await field.pressSequentially(part);
      if (part.trim() !== '') await saved;
      else await page.waitForTimeout(900);
    }
    await expect(field).toHaveValue('Tide heights today');
  }
  await title.blur();
  await expect.poll(async () => (await decisions()).plan.title).toBe('Tide heights today');
  await close();
});
