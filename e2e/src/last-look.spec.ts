import { FREE_DESTINATION } from '@under-chalk/core/destination/destination';
import { expect, test } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openBrowser, PHONE, saveFilm } from './browser';
import { fine, fineAtBothSizes } from './checks';
import { colourAt, ffmpeg, probe } from './media';
import { ROOT } from './server';
import { setStage } from './stage';

/** The last look: what is found, the place that it is about, and mended by a press. */

const stage = setStage({ readings: true });

/** A take in which nothing is said for five seconds at its beginning, and for six in its middle. */
const bringIn = async (id: string, title: string): Promise<void> => {
  const { server, folder } = stage;
  const voice = join(folder, `${id}.mp4`);
  const said = '0.2*sin(2*PI*440*t)*(between(t\\,5\\,12)+between(t\\,18\\,24))';
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc=${said}:s=48000:d=24`, '-c:a', 'aac', voice);
  await server.ask('POST', '/api/lessons', { id, title });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'sound', practice: false },
    tracks: [{ id: `take-${id}-voice`, kind: 'voice' }],
  });
  await server.send(`take-${id}-voice`, await readFile(voice));
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id);
};
/** A picture that is nothing but red, square. */
const redPicture = (): Buffer =>
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=c=0xe01010:s=400x400:d=1', '-frames:v', '1'],
    ...['-f', 'image2pipe', '-c:v', 'png', '-'],
  );
const lengthS = async (id: string) => (await stage.server.film(id)).durationUs / 1e6;

test('dead air is told, looked at and cut', async () => {
  const id = 'lesson-quiet';
  await bringIn(id, 'Recording 14');
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${stage.server.url}/lessons/${id}/last-look`);
  const list = page.getByRole('list', { name: 'What can be told beforehand' });
  const dead = list.getByRole('listitem').filter({ hasText: 'Nothing is said in 2 places' });
  await expect(dead).toBeVisible();
  await expect(list.getByText(/“Recording 14” doesn’t say what it is about/)).toBeVisible();
  await fineAtBothSizes(page);
  // By keys: one stop of the Tab key, then arrows.
  const first = list.getByRole('button').first();
  await first.focus();
  await page.keyboard.press('ArrowDown');
  await expect(list.getByRole('button').nth(1)).toBeFocused();
  await dead.getByRole('button', { name: /^Look at the place/ }).click();
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  await expect.poll(async () => Number(await slider.inputValue())).toBeLessThan(1_000_000);
  expect(await lengthS(id)).toBeCloseTo(24, 0);
  await dead.getByRole('button', { name: /^Cut them all/ }).click();
  await expect(dead).toHaveCount(0);
  await expect.poll(() => lengthS(id)).toBeLessThan(15);
  expect(await lengthS(id)).toBeGreaterThan(13);
  await fineAtBothSizes(page);
  // A title is given where titles are given.
  await list.getByRole('button', { name: /^Give it a title/ }).click();
  await expect(page).toHaveURL(/\/plan$/);
  expect(complaints).toEqual([]);
  await close();
});

test('a cover is chosen from moments and from pictures, and stands with the licence where students watch', async () => {
  const { server, folder } = stage;
  const id = 'lesson-cover';
  // A board that is empty, but for its middle third.
  const film = join(folder, 'cover-film.mp4');
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=c=0x1c252b:s=640x360:r=30:d=12'],
    ...['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=30:d=12'],
    ...['-f', 'lavfi', '-i', 'sine=f=440:r=48000:d=12'],
    ...['-filter_complex', "[0][1]overlay=enable='between(t,4,8)',format=yuv420p[v]"],
    ...['-map', '[v]', '-map', '2:a', '-c:v', 'libx264', '-preset', 'ultrafast', '-c:a', 'aac'],
    film,
  );
  // A small film renders faster.
  await server.ask('POST', '/api/destinations', { ...FREE_DESTINATION, size: 'as-recorded' });
  await server.ask('POST', '/api/lessons', { id, title: 'The rule of twelfths' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: 'take-cover', source: 'film', practice: false },
    tracks: [
      { id: 'take-cover-surface', kind: 'surface' },
      { id: 'take-cover-voice', kind: 'voice' },
    ],
  });
  const bytes = await readFile(film);
  await server.send('take-cover-surface', bytes);
  await server.send('take-cover-voice', bytes);
  await server.ask('POST', '/api/takes/take-cover/stop', {});
  await server.takeWhen(id);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${server.url}/lessons/${id}/last-look`);
  const list = page.getByRole('list', { name: 'What can be told beforehand' });
  await expect(list.getByText('Its cover was found in the film.')).toBeVisible();
  await list.getByRole('button', { name: /^Choose the cover/ }).click();
  const sheet = page.getByRole('dialog', { name: 'Cover' });
  const moments = sheet.getByRole('radiogroup', { name: 'Suggested moments' });
  await expect(moments.getByRole('radio').first()).toBeVisible({ timeout: 120_000 });
  await fine(page);
  // By keys: the moments are one stop, Space decides.
  await moments.getByRole('radio').first().focus();
  await page.keyboard.press('Space');
  await expect(moments.getByRole('radio').first()).toBeChecked();
  const decided = async () => (await server.lesson(id)).decisions.cover;
  await expect.poll(async () => (await decided()).of).toMatchObject({ takeId: 'take-cover' });
  const { of } = await decided();
  expect(of && 'atUs' in of ? of.atUs : 0).toBeGreaterThanOrEqual(4_000_000);
  expect(of && 'atUs' in of ? of.atUs : 0).toBeLessThan(8_000_000);
  // What is no picture is told of, and leaves the cover as it was.
  await sheet
    .getByLabel('Picture for the cover')
    .setInputFiles({ name: 'no.png', mimeType: 'image/png', buffer: Buffer.from('nothing') });
  await sheet
    .getByLabel('Picture for the cover')
    .setInputFiles({ name: 'chart.png', mimeType: 'image/png', buffer: redPicture() });
  await sheet.getByRole('radio', { name: /chart/ }).click();
  await sheet.getByRole('radio', { name: 'Yes' }).click();
  await expect.poll(async () => JSON.stringify(await decided())).toMatch(/content.*titled":true/);
  await fine(page);
  await sheet.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(list.getByText('Its cover is the one that you chose.')).toBeVisible();
  await list.getByRole('button', { name: /^Say it: .*what others may do/ }).click();
  await page.getByRole('radio', { name: /CC BY-SA/ }).click();
  await fine(page);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(list.getByText('What others may do with it: CC BY-SA 4.0.')).toBeVisible();
  await page.getByRole('button', { name: 'Hand out', exact: true }).click();
  await page.getByRole('button', { name: 'Make a link and copy it' }).click();
  const links = () => server.ask<ShareLink[]>('GET', `/api/lessons/${id}/share-links`);
  await expect.poll(async () => (await links())[0]?.film.state, { timeout: 120_000 }).toBe('done');
  const [link] = await links();
  const cover = join(folder, 'seen-cover.jpg');
  const address = `${server.url}/api/watch/${link!.token}`;
  await writeFile(cover, Buffer.from(await (await fetch(`${address}/cover.jpg`)).arrayBuffer()));
  const [red, green] = colourAt(cover, null, { x: 0.4, y: 0.05, width: 0.2, height: 0.1 });
  expect([red > 180, green < 60]).toEqual([true, true]);
  await page.goto(`${server.url}/w/${link!.token}`);
  await expect(page.getByRole('link', { name: 'CC BY-SA 4.0' })).toBeVisible();
  await fine(page);
  // It is in the file, too, and in the teacher's list.
  const mp4 = join(folder, 'with-cover.mp4');
  await writeFile(mp4, Buffer.from(await (await fetch(`${address}/film.mp4`)).arrayBuffer()));
  expect(probe(mp4).tags['copyright']).toContain('CC BY-SA 4.0');
  const inFile = join(folder, 'in-file.jpg');
  ffmpeg('-i', mp4, '-map', '0:v:1', '-frames:v', '1', '-c', 'copy', '-f', 'mjpeg', inFile);
  expect((await readFile(inFile)).equals(await readFile(cover))).toBe(true);
  await page.goto(server.url);
  await expect(page.locator(`img[src*="${id}/cover.jpg"]`)).toBeVisible();
  expect(complaints).toEqual([]);
  await close();
});

test('what is too small on a phone, and who is named in it, is told; a press comes closer, and the film can be read', async () => {
  const { server, folder } = stage;
  const id = 'lesson-small';
  const screen = join(folder, 'small-text.mp4');
  const font = join(ROOT, 'server', 'dist', 'title-font.ttf');
  const says = ['High water at half past four', 'Low water at ten to eleven', 'Bram Okafor asked'];
  const line = (number: number) =>
    `drawtext=fontfile=${font}:text='${says[number]}':fontsize=18:x=420:y=${260 + number * 40}`;
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=c=white:s=1280x720:r=30:d=6'],
    ...[
      '-vf',
      [0, 1, 2].map(line).join(','),
      '-c:v',
      'libx264',
      '-preset',
      'ultrafast',
      '-g',
      '30',
    ],
    ...['-pix_fmt', 'yuv420p', screen],
  );
  await server.ask('POST', '/api/lessons', { id, title: 'Reading small print' });
  await server.ask('POST', '/api/classes', { id: 'class-evening', name: 'Evening', units: [] });
  await server.ask('POST', '/api/classes/class-evening/students', {
    students: [{ name: 'Bram Okafor', address: '' }],
  });
  await server.edit(id, { do: 'plan', set: { className: 'Evening' } });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'screen', practice: false },
    tracks: [{ id: `take-${id}-surface`, kind: 'surface' }],
  });
  await server.send(`take-${id}-surface`, await readFile(screen));
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${server.url}/lessons/${id}/last-look`);
  const list = page.getByRole('list', { name: 'What can be told beforehand' });
  const told = list.getByRole('listitem').filter({ hasText: 'too small to read for 6 s' });
  // It is read in the background once the take is ready, and gives way to all else that goes on.
  await expect(told).toBeVisible({ timeout: 150_000 });
  await expect(told).toContainText(/letters of [456] px, and 9 are the least/);
  await expect(page.getByText('still being looked through')).toHaveCount(0);
  await expect(list.getByText(/^Look again\. Bram Okafor is named at 0:00: whoever/)).toBeVisible();
  await fine(page);
  await told.getByRole('button', { name: /^Zoom in there/ }).click();
  await expect(
    list.getByText('What is written in its picture can be read on a phone.'),
  ).toBeVisible();
  await expect(told).toHaveCount(0);
  // There was nothing but white round it: of the film it takes up more than of what was recorded.
  const film = join(folder, 'small-text-film.mp4');
  await saveFilm(page, film);
  const ink = (file: string) => 255 - colourAt(file, 5, { x: 0, y: 0, width: 1, height: 1 })[0];
  expect(ink(film) / ink(screen)).toBeGreaterThan(1.8);
  expect(complaints).toEqual([]);
  await close();
});
