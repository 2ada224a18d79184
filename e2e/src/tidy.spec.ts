import { expect, test, type Page } from '@playwright/test';
import { filmOf, filmTimeFrom } from '@under-chalk/core/film/film';
import { PACES, type CloseUp } from '@under-chalk/core/lesson/close-up';
import type { Take } from '@under-chalk/core/lesson/take';
import type { Stretch } from '@under-chalk/core/lesson/stretch';
import { isPictureLayer } from '@under-chalk/core/scene/layers';
import { sceneAt } from '@under-chalk/core/scene/scene';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, PHONE, saveFilm, WIDE } from './browser';
import { overhang, tooSmall, violations } from './checks';
import { setDemo, TABLE } from './demo';
import { ffmpeg, ssimOf } from './media';

/** Tidy by hand: runs of beats, and close-ups of what they show. */

const demo = setDemo();

const beat = (page: Page, number: number) =>
  page.getByRole('button', { name: new RegExp(`^Beat ${number}, `) });
const openTidy = (page: Page) => demo.openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
const closeUps = async (): Promise<readonly (Stretch & { closeUp: CloseUp })[]> =>
  (await demo.server.lesson(TABLE)).decisions.closeUps;
const undoAll = async (page: Page) => {
  const undo = page.getByRole('button', { name: /^Undo/ });
  while (await undo.isEnabled()) await undo.click();
  await expect.poll(closeUps).toEqual([]);
};

test('beats are chosen in a run and come closer to, by mouse, and the film shows it', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-tidy-'));
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await openTidy(page);
  await beat(page, 2).click();
  await beat(page, 4).click({ modifiers: ['Shift'] });
  await expect(page.getByText(/^3 beats chosen, /)).toBeVisible();
  await expect(beat(page, 3)).toHaveAccessibleName(/, chosen\. Open$/);
  await page.getByRole('button', { name: 'Come closer', exact: true }).click();
  const box = (await page.getByTestId('crop-box').boundingBox())!;
  const at = (x: number, y: number) => [box.x + x * box.width, box.y + y * box.height] as const;
  await page.mouse.move(...at(0.2, 0.3));
  await page.mouse.down();
  await page.mouse.move(...at(0.45, 0.55), { steps: 8 });
  await page.mouse.up();
  await expect(page.getByText('Seen 4 times as large.')).toBeVisible();
  // 1280 px are recorded, and a quarter of them fills 1280.
  await expect(page.getByText(/each of its points becomes 4\.\d wide/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('radio', { name: 'quickly' }).click();
  await page.getByRole('button', { name: 'Come this close' }).click();
  await expect(page.getByRole('button', { name: 'Come closer differently' })).toBeFocused();
  const [comes, ...more] = await closeUps();
  expect(more).toEqual([]);
  expect(comes!.closeUp.part.x).toBeCloseTo(0.2, 1);
  for (const number of [2, 3, 4]) {
    await expect(beat(page, number)).toHaveAccessibleName(/, seen closer/);
  }
  await expect(beat(page, 5)).not.toHaveAccessibleName(/seen closer/);
  expect(await violations(page)).toEqual([]);
  const decided = (await demo.server.lesson(TABLE)).decisions;

  // In the film: the left of it, where no camera lies over it, is that part of what was recorded, in its size.
  const film = join(folder, 'close.mp4');
  await saveFilm(page, film);
  const lesson = await demo.server.lesson(TABLE);
  const surface = demo.server.trackFile(lesson.takes[0]!, 'surface');
  const still = (file: string, us: number, filter: string, name: string) => {
    const out = join(folder, `${name}.png`);
    ffmpeg('-ss', (us / 1e6).toFixed(3), '-i', file, '-frames:v', '1', '-vf', filter, out);
    return out;
  };
  const left = 'crop=iw*0.6:ih:0:0';
  // While the page stands: what scrolls is not the same in the one picture and the other.
  const midUs = comes!.startUs + 2_000_000;
  const [{ id: takeId }] = lesson.takes as [Take];
  const filmUs = (takeUs: number) => filmTimeFrom(filmOf(lesson), { takeId, takeUs });
  const { from } = sceneAt(filmOf(lesson), filmUs(midUs))!.layers.find(isPictureLayer)!;
  expect(from.width).toBeCloseTo(0.25, 2);
  const part = `crop=iw*${from.width}:ih*${from.height}:iw*${from.x}:ih*${from.y},scale=1280:720`;
  const shown = still(film, filmUs(midUs), left, 'shown');
  expect(ssimOf(shown, still(surface, midUs, `${part},${left}`, 'part'))).toBeGreaterThan(0.9);
  const whole = 'scale=1280:720';
  expect(ssimOf(shown, still(surface, midUs, `${whole},${left}`, 'whole'))).toBeLessThan(0.8);
  for (const us of [comes!.startUs - 300_000, comes!.endUs + PACES.quick + 200_000]) {
    const filmed = still(film, filmUs(us), left, 'filmed');
    expect(ssimOf(filmed, still(surface, us, `${whole},${left}`, 'all'))).toBeGreaterThan(0.9);
  }

  // Back to the beginning and on again, and it is the same to the byte.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await expect(page.getByRole('button', { name: /^Undo: came closer for/ })).toBeVisible();
  await undoAll(page);
  // By the list of what was done, too.
  await page.getByRole('button', { name: 'What was done' }).click();
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps.getByRole('button')).toHaveCount(2);
  expect(await violations(page)).toEqual([]);
  await steps.getByRole('button', { name: /^Came closer for .*, taken back\. Go there$/ }).click();
  await expect(
    steps.getByRole('button', { name: /^Came closer for .*, as it is now$/ }),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await expect
    .poll(async () => JSON.stringify((await demo.server.lesson(TABLE)).decisions))
    .toBe(JSON.stringify(decided));
  await undoAll(page);
  expect(complaints).toEqual([]);
  await close();
  await rm(folder, { recursive: true, force: true });
});

test('the same by keys alone', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await openTidy(page);
  await beat(page, 2).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(beat(page, 3)).toBeFocused();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(beat(page, 4)).toBeFocused();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(beat(page, 3)).toBeFocused();
  await expect(page.getByText(/^2 beats chosen, /)).toBeVisible();
  const closer = page.getByRole('button', { name: 'Come closer', exact: true });
  await closer.focus();
  await page.keyboard.press('Enter');
  for (const [edge, key] of [
    ['right', 'Shift+ArrowLeft'],
    ['bottom', 'Shift+ArrowUp'],
  ] as const) {
    await page.getByRole('slider', { name: `${edge} edge of the part that is shown` }).focus();
    for (let times = 0; times < 10; times++) await page.keyboard.press(key);
  }
  await expect(page.getByText('Seen 2 times as large.')).toBeVisible();
  await page.getByRole('button', { name: 'Come this close' }).focus();
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await closeUps())[0]?.closeUp.part)
    .toEqual({ x: 0, y: 0, width: expect.closeTo(0.5), height: expect.closeTo(0.5) });
  // All of it again; the focus stays where it goes on.
  await page.getByRole('button', { name: 'See all of it again' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(closeUps).toEqual([]);
  await expect(page.getByRole('button', { name: 'Come closer', exact: true })).toBeFocused();
  await undoAll(page);
  expect(complaints).toEqual([]);
  await close();
});

test('the same on a phone: a long press reaches to a beat, two fingers pull closer', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await openTidy(page);
  await beat(page, 2).click();
  const session = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: points.map(([x, y], id) => ({ x, y, id })),
    });
  await beat(page, 3).scrollIntoViewIfNeeded();
  await page.waitForTimeout(300);
  const row = (await beat(page, 3).boundingBox())!;
  await touch('touchStart', [row.x + 60, row.y + 20]);
  await page.waitForTimeout(800);
  await touch('touchEnd');
  await expect(page.getByText(/^2 beats chosen, /)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);

  await page.getByRole('button', { name: 'Come closer', exact: true }).click();
  await page.getByTestId('crop-box').scrollIntoViewIfNeeded();
  await page.waitForTimeout(300);
  const box = (await page.getByTestId('crop-box').boundingBox())!;
  const [x, y] = [box.x + box.width * 0.5, box.y + box.height * 0.6];
  await touch('touchStart', [x - 20, y], [x + 20, y]);
  for (let step = 1; step <= 10; step++) {
    await touch('touchMove', [x - 20 - step * 10, y], [x + 20 + step * 10, y]);
    await page.waitForTimeout(30);
  }
  await touch('touchEnd');
  // Fingers are five times as far apart; how much of that counts is the gesture's.
  await expect(page.getByText(/^Seen [2-5](\.\d)? times as large\.$/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page.getByRole('button', { name: 'Come this close' }).click();
  await expect.poll(async () => (await closeUps()).length).toBe(1);
  await undoAll(page);
  expect(complaints).toEqual([]);
  await close();
});
