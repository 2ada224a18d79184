import { expect, test, type Page } from '@playwright/test';
import type { Answered } from '@under-chalk/core/contract/answers';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { openBrowser, PHONE, WIDE } from './browser';
import { fine } from './checks';
import { setDemo, WELCOME } from './demo';

/** What is asked and said at interactions of a film: put there in Tidy, met by students, answered, and seen by the teacher. */

const demo = setDemo();
const CLASS = 'class-coastal-navigation';

/** But for the note that the demo has. */
const interactions = async () =>
  (await demo.server.lesson(WELCOME)).decisions.interactions.filter(
    ({ id }) => !id.startsWith('lesson-'),
  );
const film = (page: Page) =>
  page.evaluate(() => {
    const { currentTime, paused } = document.querySelector('video')!;
    return { currentTime, paused };
  });
const answered = async () => {
  const [link] = await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${WELCOME}/share-links`);
  return demo.server.ask<Answered[]>('GET', `/api/share-links/${link!.id}/answers`);
};

test('a question is put after a phrase, on a phone, kept while it is written, and handed out', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, `/lessons/${WELCOME}/tidy`, 'Tidy');
  const phrase = page.getByRole('button', { name: /^Phrase 2, .* Open$/ }).first();
  await phrase.click();
  const ask = page.getByRole('button', { name: 'Ask or say something after it' });
  await ask.click();
  await page.getByLabel('Question', { exact: true }).fill('What do we plot this week?');
  await page.getByLabel('Answer 1', { exact: true }).fill('a course to steer');
  await page.getByLabel('Answer 2', { exact: true }).fill('a tide table');
  // A page that is closed in the middle of it loses nothing.
  await page.reload();
  await phrase.click();
  await ask.click();
  await expect(page.getByLabel('Question', { exact: true })).toHaveValue(
    'What do we plot this week?',
  );
  await expect(page.getByLabel('Answer 3', { exact: true })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Answer 1 is right' }).click();
  await page.getByRole('checkbox', { name: 'Answer 2 is right' }).click();
  await expect(page.getByText('Only one of them can be right')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Put it there' })).toBeDisabled();
  await page.getByRole('checkbox', { name: 'Answer 2 is right' }).click();
  await page.getByRole('checkbox', { name: /^The film waits for an answer/ }).click();
  await page.getByLabel('To a right answer').fill('Across the estuary.');
  await page.getByLabel('To a wrong one').fill('Listen once more.');
  await fine(page);
  await page.getByRole('button', { name: 'Put it there' }).click();
  await expect
    .poll(async () => (await interactions()).map(({ text }) => text))
    .toEqual(['What do we plot this week?']);
  await expect(ask).toBeFocused();
  await fine(page);
  // A link besides, of the web alone.
  await ask.click();
  await page.getByRole('radio', { name: 'a link' }).click();
  await page.getByLabel('What it leads to').fill('Tide times for the quay');
  await page.getByLabel('Address').fill('javascript:alert(1)');
  await expect(page.getByText(/has to begin with https/)).toBeVisible();
  await page.getByLabel('Address').fill('https://lantern-quay.example/tides');
  await page.getByRole('button', { name: 'Put it there' }).click();
  await expect.poll(async () => (await interactions()).length).toBe(2);
  await page.getByRole('button', { name: 'More to do with Tide times for the quay' }).click();
  await page.getByRole('menuitem', { name: 'Take it away' }).click();
  await expect.poll(async () => (await interactions()).length).toBe(1);
  await page.getByRole('link', { name: 'Hand out' }).click();
  await page.getByRole('button', { name: 'Hand out the change under this link' }).click();
  await expect.poll(async () => (await answered()).length).toBe(1);
  expect(complaints).toEqual([]);
  await close();
});

test('a student is asked, answers while the line is away, and it is told when that is back', async () => {
  const view = await demo.server.ask<ClassView>('GET', `/api/classes/${CLASS}`);
  const student = view.students.find(({ name }) => name === 'Bram Okafor')!;
  const { key } = await demo.server.ask<StudentPage>('POST', `/api/students/${student.id}/page`);
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(`${demo.server.url}/s/${key}`);
  await page
    .getByRole('link', { name: /^Week four: welcome/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const card = page.getByRole('group', { name: 'What do we plot this week?' });
  await expect(card).toBeVisible({ timeout: 120_000 });
  await expect(card).toBeFocused();
  expect((await film(page)).paused).toBe(true);
  await fine(page);
  // It waits: neither the button nor a key plays on.
  await expect(card.getByRole('button', { name: 'Skip' })).toBeDisabled();
  await page.locator('body').press('k');
  await expect.poll(async () => (await film(page)).paused).toBe(true);
  // No line: it is kept, and a page that is opened anew has it still.
  await page.route('**/answers', (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await card.getByRole('radio', { name: 'a tide table' }).click();
  await card.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(card.getByText('It will be sent when you’re back online.')).toBeVisible();
  await page.reload();
  await expect(
    page.getByRole('listitem').filter({ hasText: 'What do we plot this week?' }),
  ).toContainText('Answered');
  expect((await answered())[0]!.answers).toEqual([]);
  await page.unroute('**/answers');
  await page.evaluate(() => dispatchEvent(new Event('online')));
  await expect
    .poll(async () => (await answered())[0]!.answers.map(({ name, right }) => [name, right]))
    .toEqual([['Bram Okafor', false]]);

  // Told what it was, by the teacher's words; answered otherwise, by keys.
  await page.getByRole('button', { name: 'Go to What do we plot this week?' }).click();
  await expect(card.getByText('Listen once more.')).toBeVisible();
  await card.getByRole('radio', { name: 'a tide table' }).focus();
  await page.keyboard.press('ArrowUp');
  await card.getByRole('button', { name: 'Change answer' }).press('Enter');
  await expect(card.getByText('Across the estuary.')).toBeVisible();
  await fine(page);
  await card.getByRole('button', { name: 'Continue' }).click();
  await expect.poll(async () => (await film(page)).paused).toBe(false);
  // Answered, it is passed by.
  await page.evaluate(() => {
    document.querySelector('video')!.currentTime = 0;
  });
  await expect
    .poll(async () => (await film(page)).currentTime, { timeout: 30_000 })
    .toBeGreaterThan(7);
  await expect(card).toHaveCount(0);
  await close();
});

test('the teacher sees what was answered, and by whom', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await page.getByRole('button', { name: 'More to do with this link' }).first().click();
  await page.getByRole('menuitem', { name: 'Viewers…' }).click();
  const list = page.getByRole('list', { name: 'What was answered' });
  await expect(list).toContainText('What do we plot this week?');
  await expect(list).toContainText('one answer · 1 right');
  await expect(list).toContainText('a course to steer · 1 · right');
  await expect(list).toContainText('Bram Okafor: a course to steer');
  await fine(page);
  expect(complaints).toEqual([]);
  await close();
});
