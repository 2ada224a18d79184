import { expect, test, type Page } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openBrowser, PHONE, newLesson } from './browser';
import { fineAtBothSizes } from './checks';
import { ffmpeg } from './media';
import { setStage } from './stage';

/** Photographed work: a sheet on a table, laid flat and evened out. */

const stage = setStage();

/** A sheet with a frame a tenth in from its edges, on a dark table, seen from aside, in the light of a lamp to the left. */
const photograph = (out: string): void => {
  const frame = 'drawbox=x=64:y=48:w=512:h=384:color=black:t=8';
  const table = 'pad=960:720:160:120:color=0x3a2c22';
  const seen = 'perspective=40:10:930:70:70:650:900:690:sense=source:interpolation=cubic';
  const lamp = "geq=lum='lum(X,Y)*(1-0.4*X/W)':cb='cb(X,Y)':cr='cr(X,Y)'";
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=0xf4eedd:size=640x480', '-frames:v', '1'],
    ...['-vf', [frame, table, seen, lamp, 'scale=1600:1200'].join(','), out],
  );
};

/** The one material of a lesson, as its first page is seen: brightness of places, fractions of it. */
const seenOf = async (page: Page) => {
  const src = await page.getByRole('listitem').locator('img').first().getAttribute('src');
  const address = `${stage.server.url}${src!.replace(/width=\d+/, 'width=960')}`;
  const [file, raw] = [join(stage.folder, 'seen.png'), join(stage.folder, 'seen.gray')];
  await writeFile(file, Buffer.from(await (await page.request.get(address)).body()));
  ffmpeg('-i', file, '-vf', 'scale=400:300,format=gray', '-f', 'rawvideo', raw);
  const luma = ffmpeg(
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    '-s',
    '400x300',
    '-i',
    raw,
    '-f',
    'rawvideo',
    '-',
  );
  /** The darkest of a few pixels round a place. */
  return (x: number, y: number): number => {
    let least = 255;
    for (let dy = -4; dy <= 4; dy++) {
      for (let dx = -4; dx <= 4; dx++) {
        const at = (Math.round(y * 299) + dy) * 400 + Math.round(x * 399) + dx;
        least = Math.min(least, luma[at] ?? 255);
      }
    }
    return least;
  };
};

test('photographed work is laid flat and light', async () => {
  const photo = join(stage.folder, 'Noor, table.jpg');
  photograph(photo);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await newLesson(page, stage.server.url, 'Photographed');
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Materials to bring in').setInputFiles(photo);
  const straighten = page.getByRole('button', { name: 'Straighten Noor, table' });
  await straighten.click();
  const corners = page.getByRole('slider', { name: /corner of the sheet$/ });
  await expect(corners).toHaveCount(4);
  // It is proposed where the sheet lies, and not the whole picture.
  const first = page.getByRole('slider', { name: /^upper left/ });
  await expect(first).not.toHaveAttribute('aria-valuenow', '0');
  await fineAtBothSizes(page);

  // By keys, and by dragging; and back, to where it lay.
  const proposed = await first.getAttribute('aria-valuetext');
  await first.focus();
  await page.keyboard.press('Shift+ArrowRight');
  expect(await first.getAttribute('aria-valuetext')).not.toBe(proposed);
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(first).toHaveAttribute('aria-valuetext', proposed!);
  const knob = (await first.boundingBox())!;
  const [x, y] = [knob.x + knob.width / 2, knob.y + knob.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 24, y + 18, { steps: 6 });
  await page.mouse.up();
  expect(await first.getAttribute('aria-valuetext')).not.toBe(proposed);
  await page.mouse.move(x + 24, y + 18);
  await page.mouse.down();
  await page.mouse.move(x, y, { steps: 6 });
  await page.mouse.up();

  await page.getByRole('button', { name: 'Straighten it' }).click();
  // It has taken the photograph's place, which is kept.
  await expect(page.getByText('Noor, table is taken out.')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('listitem').filter({ hasText: 'Noor, table' })).toHaveCount(1);
  const dark = await seenOf(page);
  // Paper up to its edges, as light to the right as to the left; and the frame where it was drawn.
  for (const [u, v] of [
    [0.04, 0.5],
    [0.96, 0.5],
    [0.5, 0.05],
    [0.5, 0.95],
    [0.3, 0.4],
    [0.8, 0.6],
  ] as const) {
    expect([u, v, dark(u, v) > 215]).toEqual([u, v, true]);
  }
  for (const [u, v] of [
    [0.105, 0.5],
    [0.895, 0.5],
    [0.5, 0.11],
    [0.5, 0.89],
  ] as const) {
    expect([u, v, dark(u, v) < 90]).toEqual([u, v, true]);
  }
  await page.getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Noor, table' })).toHaveCount(2);
  expect(complaints).toEqual([]);
  await close();
});
