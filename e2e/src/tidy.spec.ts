import { expect, test, type Page } from '@playwright/test';
import { filmOf, filmTimeFrom } from '@under-chalk/core/film/film';
import { PACES, type CloseUp } from '@under-chalk/core/lesson/close-up';
import type { Take } from '@under-chalk/core/lesson/take';
import type { Stretch } from '@under-chalk/core/lesson/stretch';
import type { PageLayer } from '@under-chalk/core/scene/layers/page';
import { isPictureLayer } from '@under-chalk/core/scene/layers';
import { sceneAt } from '@under-chalk/core/scene/scene';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { change, openBrowser, PHONE, saveFilm, WIDE } from './browser';
import { overhang, tooSmall, violations } from './checks';
import { setDemo, TABLE } from './demo';
import { drawPdf, pagesPdf } from './made-materials';
import { fingersOn } from './hand';
import { colourAt, ffmpeg, ssimOf } from './media';

/** Tidy by hand: runs of phrases, and close-ups of what they show. */

const demo = setDemo();

const phrase = (page: Page, number: number) =>
  page.getByRole('button', { name: new RegExp(`^Phrase ${number}, `) });
const openTidy = (page: Page) => demo.openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
const closeUps = async (): Promise<readonly (Stretch & { closeUp: CloseUp })[]> =>
  (await demo.server.lesson(TABLE)).decisions.closeUps;
const undoAll = async (page: Page) => {
  const undo = page.getByRole('button', { name: /^Undo/ });
  while (await undo.isEnabled()) await undo.click();
  await expect.poll(closeUps).toEqual([]);
};

test('a run of phrases is come closer to, slides are cut in, a sign lies over it: by mouse, and in the film', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-tidy-'));
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  const [slides, sign] = [join(folder, 'Slides.pdf'), join(folder, 'Sign.png')];
  await writeFile(slides, await pagesPdf(3));
  // Red, and clear on its right half.
  const clear = "geq=r=200:g=20:b=20:a='if(lt(X,60),255,0)'";
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=red:s=120x60,format=rgba', '-vf', clear],
    ...['-frames:v', '1', sign],
  );
  await page.goto(`${demo.server.url}/lessons/${TABLE}/plan`);
  await page.getByLabel('Materials to bring in').setInputFiles([slides, sign]);
  await expect(page.getByText('3 pages', { exact: true })).toBeVisible();
  await expect(page.getByText('one page', { exact: true })).toBeVisible();
  await openTidy(page);

  // The second of the slides in place of what was recorded, while the sixth phrase is heard.
  await phrase(page, 6).click();
  await page.getByRole('button', { name: 'Show something else' }).click();
  const materials = page.getByRole('radiogroup', { name: 'Material for what is chosen' });
  await materials.getByRole('radio', { name: 'Slides' }).click();
  const stepper = page.getByRole('spinbutton', { name: 'Page for what is chosen' });
  await stepper.fill('2');
  await stepper.press('Enter');
  await expect(page.getByText('Shows Slides, page 2.')).toBeVisible();
  await expect(phrase(page, 6)).toHaveAccessibleName(/, something else shown/);
  // The preview shows it as soon as it is there: stripes across its middle.
  const inPreview = (x: number, y: number) =>
    page
      .locator('canvas')
      .evaluate(
        (canvas: HTMLCanvasElement, [across, down]) =>
          [
            ...canvas
              .getContext('2d')!
              .getImageData(canvas.width * across!, canvas.height * down!, 1, 1).data,
          ].slice(0, 3),
        [x, y],
      );
  await expect.poll(async () => Math.min(...(await inPreview(0.5, 0.95)))).toBeGreaterThan(240);
  expect(await violations(page)).toEqual([]);
  await phrase(page, 6).click();
  await change(page, 'Over all of the film there is', 'Sign', 'full');
  expect(await violations(page)).toEqual([]);

  await phrase(page, 2).click();
  await phrase(page, 4).click({ modifiers: ['Shift'] });
  await expect(page.getByText(/^3 phrases chosen, /)).toBeVisible();
  await expect(phrase(page, 3)).toHaveAccessibleName(/, chosen\. Open$/);
  await page.getByRole('button', { name: 'Zoom in', exact: true }).click();
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
  await expect(page.getByRole('button', { name: 'Change zoom' })).toBeFocused();
  const [comes, ...more] = await closeUps();
  expect(more).toEqual([]);
  expect(comes!.closeUp.part.x).toBeCloseTo(0.2, 1);
  for (const number of [2, 3, 4]) {
    await expect(phrase(page, number)).toHaveAccessibleName(/, seen closer/);
  }
  await expect(phrase(page, 5)).not.toHaveAccessibleName(/seen closer/);
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
  // The slide as the PDF is drawn by itself, but for the sign in its corner; that lets through where it is clear.
  const [cutaway] = lesson.decisions.cutaways;
  const slideUs = filmUs((cutaway!.startUs + cutaway!.endUs) / 2);
  const drawn = join(folder, 'drawn.png');
  drawPdf(slides, 1, 1280, drawn);
  const low = 'crop=iw:ih*0.8:0:ih*0.2';
  const slide = still(film, slideUs, low, 'slide');
  const cropped = join(folder, 'low.png');
  ffmpeg('-i', drawn, '-vf', low, cropped);
  expect(ssimOf(slide, cropped)).toBeGreaterThan(0.97);
  const { to } = sceneAt(filmOf(lesson), slideUs)!.layers.findLast(
    ({ kind }) => kind === 'page',
  ) as PageLayer;
  const placeIn = (part: number) => ({ x: to.x + to.width * part, y: to.y + to.height * 0.4 });
  const spot = (seconds: number, part: number) =>
    colourAt(film, seconds, { ...placeIn(part), width: 0.01, height: 0.02 });
  for (const seconds of [1, slideUs / 1e6]) {
    const [red, green] = spot(seconds, 0.25);
    expect([red > 150, green < 70]).toEqual([true, true]);
    expect(Math.min(...spot(seconds, 0.8).slice(1))).toBeGreaterThan(70);
  }

  // Back to the beginning and on again, and it is the same to the byte.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await expect(page.getByRole('button', { name: /^Undo: came closer for/ })).toBeVisible();
  await undoAll(page);
  // By the list of what was done, too.
  await page.getByRole('button', { name: 'History' }).click();
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps.getByRole('button')).toHaveCount(6);
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
  await phrase(page, 2).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(phrase(page, 3)).toBeFocused();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(phrase(page, 4)).toBeFocused();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(phrase(page, 3)).toBeFocused();
  await expect(page.getByText(/^2 phrases chosen, /)).toBeVisible();
  const closer = page.getByRole('button', { name: 'Zoom in', exact: true });
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
  await expect(page.getByRole('button', { name: 'Zoom in', exact: true })).toBeFocused();

  // Words over it.
  await page.getByRole('button', { name: 'Add text' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Words over what is chosen').focus();
  await page.keyboard.type('Page 12 of the tables');
  await page.keyboard.press('Enter');
  await expect(phrase(page, 3)).toHaveAccessibleName(/“Page 12 of the tables” over it/);
  const words = async () => (await demo.server.lesson(TABLE)).decisions.textOverlays;
  await expect
    .poll(words)
    .toEqual([
      expect.objectContaining({ textOverlay: { text: 'Page 12 of the tables', place: 'bottom' } }),
    ]);
  expect(await violations(page)).toEqual([]);
  await undoAll(page);
  await expect.poll(words).toEqual([]);

  // The inset in the picture: moved and made larger; what keys do in one go is one step.
  const handle = page.getByTestId('inset-handle');
  await handle.focus();
  for (const key of ['Shift+ArrowLeft', 'Shift+ArrowLeft', 'Shift+ArrowLeft', '+', '+']) {
    await page.keyboard.press(key);
  }
  const inset = async () =>
    (await demo.server.lesson(TABLE)).decisions.layouts.at(-1)?.layout.inset;
  await expect.poll(async () => (await inset())?.size).toBeCloseTo(0.28 * 1.08 * 1.08);
  expect((await inset())!.placeX).toBeLessThan(0.9);
  await expect(handle).toBeFocused();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: /^Undo: showed surface with inset for / }).click();
  await expect.poll(inset).toBeUndefined();

  // A layout of one's own: kept under a name, set by one press, let go.
  const keepOne = page.getByRole('button', { name: 'Save layout' });
  await page.getByRole('radiogroup', { name: 'Size of the inset' }).getByText('large').click();
  await keepOne.focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Layout name').focus();
  await page.keyboard.type('Large face');
  await page.keyboard.press('Enter');
  const mine = page.getByRole('button', { name: 'Use layout Large face' });
  await expect(mine).toBeVisible();
  await page.getByRole('radio', { name: 'side by side' }).click();
  await mine.focus();
  await page.keyboard.press('Enter');
  const lastLayout = async () => (await demo.server.lesson(TABLE)).decisions.layouts.at(-1);
  await expect.poll(lastLayout).toMatchObject({ layout: { kind: 'inset', inset: { size: 0.42 } } });
  expect(await violations(page)).toEqual([]);
  await keepOne.click();
  await page.getByRole('button', { name: 'Delete layout Large face' }).click();
  await expect(mine).toBeHidden();
  await undoAll(page);
  expect(complaints).toEqual([]);
  await close();
});

test('the same on a phone: a long press reaches to a phrase, two fingers pull closer', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await openTidy(page);
  await phrase(page, 2).click();
  const touch = await fingersOn(page);
  await phrase(page, 3).scrollIntoViewIfNeeded();
  await page.waitForTimeout(300);
  const row = (await phrase(page, 3).boundingBox())!;
  await touch('touchStart', [row.x + 60, row.y + 20]);
  await page.waitForTimeout(800);
  await touch('touchEnd');
  await expect(page.getByText(/^2 phrases chosen, /)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);

  await page.getByRole('button', { name: 'Zoom in', exact: true }).click();
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

  // The same in the picture itself: pulled apart it is nearer still, pushed together all of it is seen again.
  const near = (await closeUps())[0]!.closeUp.part;
  await page.evaluate(() => scrollTo(0, 0));
  await page.waitForTimeout(800);
  const over = (await page.getByTestId('pinch-area').boundingBox())!;
  const [midX, midY] = [over.x + over.width * 0.4, over.y + over.height * 0.4];
  const pull = async (from: number, to: number) => {
    await touch('touchStart', [midX - from, midY], [midX + from, midY]);
    for (let step = 1; step <= 8; step++) {
      const apart = from + ((to - from) * step) / 8;
      await touch('touchMove', [midX - apart, midY], [midX + apart, midY]);
      await page.waitForTimeout(30);
    }
    await touch('touchEnd');
  };
  await pull(20, 120);
  const width = async () => (await closeUps())[0]?.closeUp.part.width ?? 1;
  await expect.poll(width).toBeLessThan(near.width * 0.8);
  await page.waitForTimeout(800);
  await pull(130, 6);
  await expect.poll(async () => (await closeUps()).length).toBe(0);
  await expect(page.getByText(/^2 phrases chosen, /)).toBeVisible();

  // The frame upright, with room round the picture: the preview takes its shape, and leaves room for the column.
  await phrase(page, 2).click();
  await change(page, 'The frame is', 'upright, 9:16', 'wide', 'rounded', 'evening');
  await expect
    .poll(async () => (await demo.server.lesson(TABLE)).decisions.frame)
    .toEqual({
      ...{ shape: '9:16', margin: 0.07, rounding: 0.04 },
      ground: { is: 'gradient', from: '#22384d', to: '#8a4f4a' },
    });
  const picture = (await page.locator('canvas').boundingBox())!;
  expect(picture.width / picture.height).toBeCloseTo(9 / 16, 1);
  expect(picture.height).toBeLessThan(PHONE.height * 0.5);
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await undoAll(page);
  expect(complaints).toEqual([]);
  await close();
});
