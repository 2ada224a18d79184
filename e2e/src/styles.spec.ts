import { expect, test } from '@playwright/test';
import { filmOf } from '@under-chalk/core/film/film';
import { sameSavedStyle } from '@under-chalk/core/lesson/saved-style';
import { stat } from 'node:fs/promises';
import { change, openBrowser, PHONE, planLesson, WIDE, within } from './browser';
import { fine, violations } from './checks';
import { setDemo, TABLE } from './demo';

/** Cards before and after a film, and styles: what was decided once, for the next lessons. */

const demo = setDemo();
const decisions = async (id = TABLE) => (await demo.server.lesson(id)).decisions;

test('a lesson’s cards and style are the next lesson’s of the class, on a phone', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
  const before = filmOf(await demo.server.lesson(TABLE));
  await within(page, 'Cards with words', async () => {
    const begins = page.getByRole('radiogroup', { name: 'The film begins with' });
    await begins.getByRole('radio', { name: 'a card' }).click();
    await page.getByLabel('Small under it').fill('With Ines, on Tuesdays');
    await page.getByLabel('Small under it').press('Enter');
    const ends = page.getByRole('radiogroup', { name: 'The film ends with' });
    await ends.getByRole('radio', { name: 'a card' }).click();
    await fine(page);
  });
  await expect
    .poll(async () => (await decisions()).titleCards)
    .toEqual({
      opening: { heading: null, line: 'With Ines, on Tuesdays', lastsUs: 3_000_000 },
      closing: { heading: null, line: null, lastsUs: 3_000_000 },
    });
  // The film is six seconds longer, and the preview shows the card that was put last.
  const film = filmOf(await demo.server.lesson(TABLE));
  expect(film.durationUs - before.durationUs).toBe(6_000_000);
  await expect(page.getByRole('slider', { name: 'Position in the film' })).toHaveAttribute(
    'max',
    String(film.durationUs),
  );
  await change(page, 'The frame is', 'less wide, 4:3', 'narrow', 'evening');
  await page.getByRole('link', { name: 'Plan' }).click();
  await within(page, 'Style', async () => {
    await page.getByLabel('Style name').fill('Evening classes');
    await expect(
      page.getByRole('radio', { name: 'of Coastal navigation for beginners' }),
    ).toBeChecked();
    await fine(page);
    await page.getByRole('button', { name: 'Save style' }).click();
    await expect(page.getByRole('button', { name: 'Use style Evening classes' })).toBeVisible();
  });
  await expect(
    page.getByRole('button', {
      name: /^Style: Evening classes · class default/,
    }),
  ).toBeVisible();

  // A new lesson of the class begins with it; one of another class doesn’t.
  const other = await planLesson(page, demo.server.url, 'Fog at night');
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Class', { exact: true }).fill('Another class');
  await page.getByLabel('Unit or week').click();
  await page.waitForTimeout(1_200);
  expect((await decisions(other)).titleCards.opening).toBeNull();
  const next = await planLesson(page, demo.server.url, 'Neaps and springs');
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Class', { exact: true }).fill('Coastal navigation for beginners');
  await page.getByLabel('Unit or week').click();
  const line = page.getByRole('button', { name: /^Style: / });
  await expect(line).toHaveAccessibleName(/Evening classes · class default/);
  await expect
    .poll(async () => sameSavedStyle(await decisions(next), await decisions()))
    .toBe(true);
  await fine(page);
  expect(complaints).toEqual([]);
  await close();
});

test('a style is taken by keys, with one step that is undone, and let go', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  const says = await decisions();
  // As a lesson that was made before the style was kept.
  const id = await planLesson(page, demo.server.url, 'An older lesson');
  await demo.openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
  await within(page, 'Cards with words', () =>
    page
      .getByRole('radiogroup', { name: 'The film ends with' })
      .getByRole('radio', { name: 'nothing more' })
      .click(),
  );
  await page.getByRole('link', { name: 'Plan' }).click();
  const line = page.getByRole('button', { name: /^Style: / });
  await expect(line).toHaveAccessibleName(/^Style: custom/);
  await line.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Use style Evening classes' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => sameSavedStyle(await decisions(), says)).toBe(true);
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Delete style Evening classes' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'Saved styles' })).toBeHidden();
  expect(await demo.server.ask('GET', '/api/styles')).toEqual([]);
  expect((await decisions(id)).titleCards.opening).toBeNull();
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('button', { name: /^Undo: changed the closing card/ }).click();
  await expect.poll(async () => (await decisions()).titleCards.closing).toBeNull();
  expect(complaints).toEqual([]);
  await close();
});

test('all of a lesson is saved from the list, and its cut list', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  for (const [label, ending] of [
    ['Download lesson archive', 'zip'],
    ['Save the cut list', 'otio'],
  ] as const) {
    await page.getByRole('button', { name: 'More to do with Reading a tide table' }).click();
    const saving = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: label }).click();
    const saved = await saving;
    // By goal, class and week.
    const name = 'Reading a tide table - Coastal navigation for beginners - Week 4';
    expect(saved.suggestedFilename()).toBe(`${name}.${ending}`);
    const { size } = await stat(await saved.path());
    const takes = (await demo.server.lesson(TABLE)).takes;
    const media = takes[0]!.tracks.map(({ kind }) => demo.server.trackFile(takes[0]!, kind));
    const footage = (await Promise.all(media.map((path) => stat(path)))).map((one) => one.size);
    const all = footage.reduce((sum, bytes) => sum + bytes, 0);
    // Footage is as it is, and what stands beside it is little.
    if (ending === 'zip') expect(size).toBeGreaterThan(all);
    expect(size).toBeLessThan(ending === 'zip' ? all * 1.1 + 100_000 : 100_000);
  }
  expect(complaints).toEqual([]);
  await close();
});
