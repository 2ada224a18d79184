import { expect, test, type Page } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  change,
  choosePracticeVoice,
  goToTidy,
  openBrowser,
  PHONE,
  newLesson,
  recordFor,
  recordedMs,
  saveFilm,
  startRecording,
  stopRecording,
  WIDE,
  within,
} from './browser';
import { fineAtBothSizes, tooSmall, violations } from './checks';
import { drawPdf, pagesPdf } from './made-materials';
import { ffmpeg, ssimOf } from './media';
import { setStage } from './stage';

/** What is brought in to be shown: turned, written on, recorded, and found again in the film. */

const stage = setStage();

const bring = (page: Page, ...files: string[]) =>
  page.getByLabel('Materials to bring in').setInputFiles(files);

const turnOn = (page: Page) => page.getByRole('button', { name: 'Turn to the next page' }).click();

/** Draws a line across the page, by hand. */
const drawOn = async (page: Page, from: [number, number], to: [number, number]) => {
  const box = (await page.getByTestId('board').boundingBox())!;
  const at = ([x, y]: [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const;
  await page.mouse.move(...at(from));
  await page.mouse.down();
  for (let step = 1; step <= 12; step++) {
    const part = (index: 0 | 1) => from[index] + ((to[index] - from[index]) * step) / 12;
    await page.mouse.move(...at([part(0), part(1)]));
  }
  await page.mouse.up();
};

test('slides are brought in, turned, written on, recorded, and exported', async () => {
  const slides = join(stage.folder, 'Week four.pdf');
  await writeFile(slides, await pagesPdf(4));
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const id = await newLesson(page, stage.server.url, 'Slides');
  await choosePracticeVoice(page);
  await page.waitForTimeout(500);
  await change(page, 'What to show', /^Materials/);
  await change(page, 'With', 'no camera');
  await bring(page, slides);
  await expect(page.getByText('4 pages', { exact: true })).toBeVisible();
  const board = page.getByTestId('board');
  await expect(board).toHaveAttribute('aria-label', /^Week four, page 1 of 4/);
  // What stands on the page can be read out.
  await expect(board).toHaveAttribute('aria-label', /Page 1 of the slides/);
  await fineAtBothSizes(page);

  await startRecording(page);
  await recordFor(page, 1);
  const beforeTurnMs = await recordedMs(page);
  await turnOn(page);
  await expect(board).toHaveAttribute('aria-label', /^Week four, page 2 of 4/);
  await recordFor(page, 1);
  const beforeInkMs = await recordedMs(page);
  await drawOn(page, [0.1, 0.8], [0.6, 0.8]);
  const writtenMs = await recordedMs(page);
  await recordFor(page, 1);
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  // From the overview to the last, by keys.
  const all = page.getByRole('button', { name: /all pages/ });
  await all.focus();
  await page.keyboard.press('Enter');
  const last = page.getByRole('button', { name: /^Page 4, / });
  await last.focus();
  await page.keyboard.press('Enter');
  await expect(board).toHaveAttribute('aria-label', /^Week four, page 4 of 4/);
  const jumpedMs = await recordedMs(page);
  await recordFor(page, 1.5);
  // The same page once more, with room to write beside it.
  await all.click();
  await page.getByRole('button', { name: 'Room beside this page' }).click();
  await expect(board).toHaveAttribute('aria-label', /^Week four, page 5 of 5/);
  await drawOn(page, [0.6, 0.8], [0.9, 0.8]);
  const besideMs = await recordedMs(page);
  await recordFor(page, 1);
  await stopRecording(page);
  await stage.server.takeWhen(id);

  await goToTidy(page);
  const film = join(stage.folder, 'slides.mp4');
  await saveFilm(page, film, 'as recorded');
  /** How like a frame of the film is to a page of the PDF that was drawn by itself, in the film's size. */
  const like = (seconds: number, number: number, crop = '', widthPx = 640) => {
    const still = join(stage.folder, 'still.png');
    const drawn = join(stage.folder, 'drawn.png');
    const cropped = crop ? ['-vf', crop] : [];
    ffmpeg('-ss', String(seconds), '-i', film, '-frames:v', '1', ...cropped, still);
    drawPdf(slides, number, widthPx, drawn);
    return ssimOf(still, drawn);
  };
  const before = beforeTurnMs / 1000 - 0.1;
  expect(like(before, 0)).toBeGreaterThan(0.97);
  expect(like(before, 1)).toBeLessThan(0.95);
  expect(like(beforeInkMs / 1000 - 0.1, 1)).toBeGreaterThan(0.97);
  expect(like(jumpedMs / 1000 + 0.8, 3)).toBeGreaterThan(0.97);
  const beside = besideMs / 1000 + 0.5;
  expect(like(beside, 3, 'crop=320:180:0:90', 320)).toBeGreaterThan(0.97);
  // What was written is there, on its page and from then on.
  const ink = (seconds: number, x = 0.3) => {
    const crop = `crop=iw*0.2:ih*0.02:iw*${x}:ih*0.79,scale=1:1:flags=area,format=gray`;
    const args = ['-ss', String(seconds), '-i', film, '-frames:v', '1', '-vf', crop];
    return ffmpeg(...args, '-f', 'rawvideo', '-')[0]!;
  };
  expect(ink(writtenMs / 1000 + 0.7)).toBeLessThan(ink(beforeInkMs / 1000 - 0.1) - 20);
  expect(ink(beside, 0.65)).toBeLessThan(200);
  expect(complaints).toEqual([]);
  await close();
});

test('the outline names pages, and ticking turns to them', async () => {
  const slides = join(stage.folder, 'Tides.pdf');
  await writeFile(slides, await pagesPdf(5));
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await newLesson(page, stage.server.url, 'Turned by the outline');
  await page.getByRole('link', { name: 'Plan' }).click();
  await bring(page, slides);
  await expect(page.getByText('5 pages', { exact: true })).toBeVisible();
  for (const [index, text] of ['Springs', 'Neaps'].entries()) {
    await page.getByLabel('Another topic').fill(text);
    await page.getByLabel('Another topic').press('Enter');
    await page.getByRole('button', { name: `What to show and say for ${text}` }).click();
    await page.getByRole('radio', { name: 'Tides' }).last().click();
    const stepper = page.getByRole('spinbutton', { name: `Page for topic ${index + 1}` });
    await stepper.fill(String(index + 2));
    await stepper.press('Enter');
    await expect(page.getByLabel(`To show for topic ${index + 1}`)).toHaveValue(
      `Tides, page ${index + 2}`,
    );
  }
  await page.getByRole('button', { name: 'Go on to Record' }).click();
  await choosePracticeVoice(page);
  await page.waitForTimeout(500);
  await change(page, 'What to show', /^The board/);
  await startRecording(page);
  const board = page.getByTestId('board');
  await expect(board).toHaveAttribute('aria-label', /^Tides, page 2 of 5/);
  await page.getByRole('button', { name: 'Mark done: Springs' }).click();
  await expect(board).toHaveAttribute('aria-label', /^Tides, page 3 of 5/);
  await page.getByRole('button', { name: 'Show Tides, page 2' }).click();
  await expect(board).toHaveAttribute('aria-label', /^Tides, page 2 of 5/);
  await page.getByRole('radio', { name: 'Board' }).click();
  await expect(board).toHaveAttribute('aria-label', /^Board, page 1 of 1/);
  await page.getByRole('radio', { name: 'Tides' }).click();
  await expect(board).toHaveAttribute('aria-label', /^Tides, page 2 of 5/);
  await stopRecording(page);
  expect(complaints).toEqual([]);
  await close();
});

test('what can’t be shown says so, a cut line goes on, and what is taken out comes back', async () => {
  const { page, close } = await openBrowser({});
  await newLesson(page, stage.server.url, 'Broken and whole');
  const file = async (name: string, bytes: Buffer | string) => {
    const path = join(stage.folder, name);
    await writeFile(path, bytes);
    return path;
  };
  await bring(
    page,
    await file('empty.pdf', ''),
    await file('torn.pdf', (await pagesPdf(2)).subarray(0, 400)),
    await file('film.xyz', Buffer.from([1, 2, 3, 0, 5])),
  );
  await expect(page.getByText('The file is empty.')).toBeVisible();
  await expect(page.getByText(/damaged, and none of its pages/)).toBeVisible();
  await expect(page.getByText(/no kind of file that can be shown/)).toBeVisible();
  expect(await violations(page)).toEqual([]);

  // The line is cut while it is sent: it goes on by itself, and nothing is sent twice.
  await page.route('**/api/uploads/**', (route) => route.abort(), { times: 1 });
  await bring(page, await file('Whole.pdf', await pagesPdf(3)));
  await expect(page.getByText('3 pages', { exact: true })).toBeVisible({ timeout: 30_000 });

  await page.getByRole('button', { name: 'Take Whole out' }).click();
  await expect(page.getByText('Whole is taken out.')).toBeVisible();
  await expect(page.getByText('3 pages', { exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByText('3 pages', { exact: true })).toBeVisible();

  // What a picture shows is asked for once.
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=red:s=90x60',
    '-frames:v',
    '1',
    join(stage.folder, 'Bram.png'),
  );
  await bring(page, join(stage.folder, 'Bram.png'));
  await page.getByLabel('What Bram shows').fill('A course to the outer buoy');
  await page.getByLabel('What Bram shows').press('Enter');
  await expect(page.getByLabel('What Bram shows')).toBeHidden();
  await page.reload();
  await expect(page.getByText('one page')).toBeVisible();
  await expect(page.getByLabel('What Bram shows')).toBeHidden();

  // Dropped on the page, as files are.
  const bytes = [...(await pagesPdf(6))];
  const dropped = await page.evaluateHandle((content) => {
    const data = new DataTransfer();
    data.items.add(new File([new Uint8Array(content)], 'Dropped.pdf', { type: 'application/pdf' }));
    return data;
  }, bytes);
  await page.dispatchEvent('body', 'drop', { dataTransfer: dropped });
  await expect(page.getByText('6 pages', { exact: true })).toBeVisible();

  // Into the next lesson without being sent again.
  await newLesson(page, stage.server.url, 'The next one');
  await page.getByRole('button', { name: 'From another lesson' }).click();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Bring Dropped in' }).click();
  await expect(page.getByText('6 pages', { exact: true })).toBeVisible();
  await close();
});

test('what is pointed at is in the film, and looks as is chosen afterwards', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  const id = await newLesson(page, stage.server.url, 'Pointing');
  await choosePracticeVoice(page);
  await page.waitForTimeout(500);
  await change(page, 'What to show', /^The board/);
  await change(page, 'With', 'no camera');
  await startRecording(page);
  await page.getByRole('radio', { name: 'Point', exact: true }).click();
  const box = (await page.getByTestId('board').boundingBox())!;
  const go = (x: number, y: number, steps: number) =>
    page.mouse.move(box.x + x * box.width, box.y + y * box.height, { steps });
  await go(0.2, 0.5, 10);
  await recordFor(page, 1);
  const restedMs = await recordedMs(page);
  await go(0.7, 0.5, 25);
  await page.mouse.down();
  await recordFor(page, 1);
  const pressedMs = await recordedMs(page);
  await page.mouse.up();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  await recordFor(page, 1);
  await go(0.2, 0.5, 25);
  await recordFor(page, 1);
  const awayMs = await recordedMs(page);
  await stopRecording(page);
  await stage.server.takeWhen(id);
  await goToTidy(page);

  await within(page, 'Pointer highlight', async () => {
    for (const name of ['a spotlight', 'never']) {
      await page.getByRole('radio', { name, exact: true }).click();
    }
    const holds = page.getByRole('radiogroup', { name: 'A press holds it in place' });
    await holds.getByRole('radio', { name: 'yes' }).click();
  });
  expect(await violations(page)).toEqual([]);
  const film = join(stage.folder, 'pointing.mp4');
  await saveFilm(page, film, 'as recorded');
  const light = (seconds: number, x: number, y: number) => {
    const crop = `crop=iw*0.02:ih*0.02:iw*${x - 0.01}:ih*${y - 0.01},scale=1:1:flags=area,format=gray`;
    const args = ['-ss', String(seconds), '-i', film, '-frames:v', '1', '-vf', crop];
    return ffmpeg(...args, '-f', 'rawvideo', '-')[0]!;
  };
  const rested = restedMs / 1000 - 0.2;
  const pressed = pressedMs / 1000 - 0.2;
  // The light is where the pointer was, and moved with it.
  expect(light(rested, 0.2, 0.5)).toBeGreaterThan(light(rested, 0.7, 0.5) + 6);
  expect(light(pressed, 0.7, 0.5)).toBeGreaterThan(light(pressed, 0.2, 0.5) + 6);
  // Held by the press, it stayed while the pointer went back.
  expect(light(awayMs / 1000 - 0.2, 0.7, 0.5)).toBeGreaterThan(
    light(awayMs / 1000 - 0.2, 0.2, 0.5) + 6,
  );
  // Taken back, it is a halo again.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('button', { name: /^Pointer highlight: a halo/ })).toBeVisible();
  expect(complaints).toEqual([]);
  await close();
});
