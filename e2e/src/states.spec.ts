import { expect, test } from '@playwright/test';
import { change, choosePractice, openBrowser, startRecording } from './browser';
import { violations } from './checks';
import { setDemo, TABLE } from './demo';

/** What screens say when there is nothing, when nothing changes, and when the server can't be reached. */

const demo = setDemo();
const { openAt } = demo;

test('what is empty, not there or unreadable can be read in both lights', async () => {
  const { page, close } = await openBrowser({});
  const id = 'lesson-of-states';
  await demo.server.ask('POST', '/api/lessons', { id, title: 'Neap tides' });
  const empty: [step: string, says: RegExp][] = [
    ['plan', /Outline/],
    ['record', /What to show/],
    ['tidy', /There is nothing to tidy yet/],
    ['last-look', /nothing/],
    ['hand-out', /nothing/],
  ];
  for (const [step, says] of empty) {
    await page.goto(`${demo.server.url}/lessons/${id}/${step}`);
    await page.getByText(says).first().waitFor();
    expect([step, await violations(page)]).toEqual([step, []]);
  }
  // Footage that is none: the take says so.
  await demo.server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: 'take-of-states', source: 'film', practice: false },
    tracks: [{ id: 'take-of-states-surface', kind: 'surface' }],
  });
  await demo.server.send('take-of-states-surface', Buffer.from('this is no film'));
  await demo.server.ask('POST', '/api/takes/take-of-states/stop', {});
  await page.goto(`${demo.server.url}/lessons/${id}/record`);
  await page.getByText('This file is not a film that can be opened here.').waitFor();
  expect(await violations(page)).toEqual([]);
  // A sheet over the page, and a menu.
  await page.getByRole('button', { name: /^With: / }).click();
  await page.getByRole('dialog').waitFor();
  expect(['sheet', await violations(page)]).toEqual(['sheet', []]);
  await page.keyboard.press('Escape');
  // A press during which the page moves (what is heard is told above) is none: then it is pressed again.
  await expect(async () => {
    const more = page.getByRole('button', { name: /^More to do with/ }).first();
    if (!(await page.getByRole('menuitem').first().isVisible())) await more.click();
    await page.getByRole('menuitem').first().waitFor({ timeout: 2_000 });
  }).toPass({ timeout: 60_000 });
  // A menu that is open has the focus and is left by Escape: it needs no landmark around it.
  const ofMenu = (await violations(page)).filter(([, rule]) => rule !== 'region');
  expect(['menu', ofMenu]).toEqual(['menu', []]);
  for (const path of ['/lessons/lesson-not-there/tidy', '/w/AAAAAAAAAAAAAAAAAAAAAA']) {
    await page.goto(demo.server.url + path);
    await page
      .getByText(/There is (no film at this address|nothing here)/)
      .first()
      .waitFor();
    expect([path, await violations(page)]).toEqual([path, []]);
  }
  await page.goto(`${demo.server.url}/`);
  await page.getByText('Neap tides').waitFor();
  await page.route('**/api/**', (route) => route.abort());
  await page.getByRole('link', { name: /^Neap tides/ }).click();
  await page.getByText('Under Chalk can’t be reached.').waitFor();
  expect(['away', await violations(page)]).toEqual(['away', []]);
  await close();
});

test('recording fits a phone held sideways, and says nothing while nothing changes', async () => {
  const { page, close } = await openBrowser({ viewport: { width: 844, height: 390 } });
  await page.goto(`${demo.server.url}/lessons/${TABLE}/record`);
  await choosePractice(page);
  await startRecording(page);
  const picture = (await page.getByTestId('chalk-whole').boundingBox())!;
  const stop = (await page.getByRole('button', { name: 'Stop', exact: true }).boundingBox())!;
  expect(picture.y).toBeGreaterThanOrEqual(0);
  expect(picture.y + picture.height).toBeLessThanOrEqual(stop.y);
  expect(await violations(page)).toEqual([]);
  // Some seconds as a screen reader has them: what changes inside of anything that is read out by itself.
  const said = await page.evaluate(
    () =>
      new Promise<string[]>((resolve) => {
        const heard: string[] = [];
        const watch = new MutationObserver((changes) => {
          for (const { target } of changes) {
            const on = target instanceof Element ? target : target.parentElement;
            const live = on?.closest(
              '[aria-live="polite"], [aria-live="assertive"], [role="status"], [role="alert"]',
            );
            if (live) heard.push(live.textContent ?? '');
          }
        });
        watch.observe(document.body, { subtree: true, childList: true, characterData: true });
        setTimeout(() => resolve(heard), 10_000);
      }),
  );
  expect(said.length, said.join(' | ')).toBeLessThan(2);
  await close();
});

test('lessons are found, copied, thrown away and brought back, by keys too', async () => {
  const { page, close } = await openBrowser({});
  for (const [index, title] of ['One', 'Two', 'Three', 'Four'].entries()) {
    await demo.server.ask('POST', '/api/lessons', {
      id: `lesson-more-${index}`,
      title: `Ebb ${title}`,
    });
  }
  await openAt(page, '/', 'Ebb Three');
  // Rows are links with an address of their own.
  const link = page.getByRole('link', { name: /^Reading a tide table/ });
  expect(await link.getAttribute('href')).toBe(`/lessons/${TABLE}/tidy`);
  await page.getByLabel('Find a lesson').fill('navigation tide');
  await expect(page.getByText('Ebb Three')).toBeHidden();
  await expect(link).toBeVisible();
  await page.getByLabel('Find a lesson').fill('ebb');
  const more = page.getByRole('button', { name: 'More to do with Ebb Two' });
  await more.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'Make a copy' })).toBeFocused();
  // What takes away stands last.
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  const back = page.getByRole('button', { name: 'Restore: Ebb Two' });
  await expect(back).toBeFocused();
  await expect(more).toBeHidden();
  await page.getByRole('link', { name: /^Bin/ }).click();
  await expect(page.getByText('Lesson “Ebb Two”')).toBeVisible();
  await page.getByRole('button', { name: /^Restore: Lesson “Ebb Two”/ }).click();
  await expect(page.getByText('The bin is empty.')).toBeVisible();
  await page.getByRole('button', { name: 'Lessons', exact: true }).click();
  // As it was left.
  await expect(page.getByLabel('Find a lesson')).toHaveValue('ebb');
  await more.click();
  await page.getByRole('menuitem', { name: 'Make a copy' }).click();
  await expect(page.getByLabel('What shall it teach?')).toHaveValue('Copy of Ebb Two');
  await close();
});

test('can’t be reached goes away by itself when the server is back', async () => {
  const { page, close } = await openBrowser({});
  await openAt(page, '/', 'Reading a tide table');
  await demo.server.kill();
  await page.getByRole('link', { name: /^Reading a tide table/ }).click();
  await expect(page.getByText('Under Chalk can’t be reached.')).toBeVisible({ timeout: 40_000 });
  await demo.server.up();
  await expect(page.getByRole('heading', { name: 'Tidy', level: 1 })).toBeVisible({
    timeout: 40_000,
  });
  await change(page, 'When the layout changes, it changes', 'slow');
  await close();
});
