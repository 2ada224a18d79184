import { expect, test } from '@playwright/test';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { change, goToTidy, openBrowser, newLesson, saveFilm } from './browser';
import { colourAt, probe, tonesAt } from './media';
import { ROOT } from './server';
import { setStage } from './stage';

/** Films that are brought in, made, called off, and made with no browser. */

// Each goes on where the one before left off.
test.describe.configure({ mode: 'serial' });

let lessonId: string;
const stage = setStage();

/** A film as a phone held upright makes it: 12 s, green, a beep each second. */
const phoneFilm = (): string => {
  const out = join(stage.folder, 'from the phone.mp4');
  execFileSync('ffmpeg', [
    ...['-hide_banner', '-loglevel', 'error', '-y'],
    ...['-f', 'lavfi', '-i', 'color=c=0x00a040:size=480x854:rate=30'],
    ...[
      '-f',
      'lavfi',
      '-i',
      String.raw`aevalsrc=if(lt(mod(t\,1)\,0.1)\,0.6*sin(2*PI*1000*t)\,0):s=44100`,
    ],
    ...['-t', '12', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-g', '300'],
    ...['-c:a', 'aac', out],
  ]);
  return out;
};

const films = () => stage.server.ask<FilmRow[]>('GET', `/api/lessons/${lessonId}/films`);

test('a film from the camera roll becomes a take, whole and upright in the picture', async () => {
  const { page, close, complaints } = await openBrowser({});
  lessonId = await newLesson(page, stage.server.url, 'From the camera roll');
  await page.getByLabel('Film to bring in').setInputFiles(phoneFilm());
  await expect(page.getByText(/^12 s/)).toBeVisible({ timeout: 120_000 });
  await goToTidy(page);
  const lesson = await stage.server.lesson(lessonId);
  expect(lesson.takes[0]).toMatchObject({ source: 'film', state: 'ready' });
  expect(lesson.takes[0]!.tracks.map((track) => track.kind)).toEqual(['surface', 'voice']);

  const out = join(stage.folder, 'film.mp4');
  await saveFilm(page, out);
  expect(probe(out).video).toMatchObject({ width: 1280, height: 720 });
  // As long as its sound, which ends with a whole AAC frame a little after the picture.
  const frames = Number(probe(out).video!['nb_frames']);
  expect(frames).toBeGreaterThanOrEqual(360);
  expect(frames).toBeLessThanOrEqual(364);
  const green = ([red, g, blue]: [number, number, number]) => g > 120 && red < 60 && blue < 110;
  const spot = (x: number) => colourAt(out, 5, { x, y: 0.5, width: 0.05, height: 0.05 });
  expect(green(spot(0.48))).toBe(true);
  // It is shown whole, with the background at its sides.
  expect(green(spot(0.1))).toBe(false);
  expect(tonesAt(out, 1_000)).toHaveLength(12);
  expect(complaints).toEqual([]);
  await close();
});

test('making a film can be called off, and taken up again', async () => {
  const { page, close } = await openBrowser({});
  await page.goto(`${stage.server.url}/lessons/${lessonId}/hand-out`);
  await change(page, 'Size of the picture', /^1080p/);
  await page.getByRole('button', { name: 'Export film' }).click();
  await page.getByRole('button', { name: 'Call it off' }).click();
  await expect(page.getByText('Called off.')).toBeVisible();
  expect((await films())[0]).toMatchObject({ state: 'cancelled', size: '1080p' });
  await page.getByRole('button', { name: 'Make it after all' }).click();
  await expect.poll(async () => (await films())[0]!.state, { timeout: 180_000 }).toBe('done');
  // The same film is not made twice.
  await page.getByRole('button', { name: 'Export film' }).click();
  await page.waitForTimeout(1_000);
  expect((await films()).filter((film) => film.size === '1080p')).toHaveLength(1);
  await close();
});

test('footage that has gone from the disk is told, and nothing else breaks', async () => {
  const lesson = await stage.server.lesson(lessonId);
  const media = stage.server.trackFile(lesson.takes[0]!, 'voice');
  const kept = readFileSync(media);
  await rm(media);
  const { page, close } = await openBrowser({});
  await page.goto(`${stage.server.url}/lessons/${lessonId}/hand-out`);
  await change(page, 'Size of the picture', /^as recorded/);
  await page.getByRole('button', { name: 'Export film' }).click();
  await expect(page.getByText('Footage of this lesson is missing from the disk.')).toBeVisible();
  await writeFile(media, kept);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect.poll(async () => (await films())[0]!.state, { timeout: 180_000 }).toBe('done');
  await close();
});

test('the command line makes the same film with no browser', async () => {
  const out = join(stage.folder, 'by hand.mp4');
  const made = spawnSync(
    process.execPath,
    [join(ROOT, 'server/dist/film.js'), lessonId, '--out', out, '--size', '720p'],
    { env: { ...process.env, UNDER_CHALK_HOME: stage.server.home }, encoding: 'utf8' },
  );
  expect(made.status, made.stderr).toBe(0);
  // Its chunks had been made by the stage.server.
  expect(made.stdout).toContain('0 of them rendered now');
  expect(probe(out).video).toMatchObject({
    nb_frames: probe(join(stage.folder, 'film.mp4')).video!['nb_frames'],
  });
  const unknown = spawnSync(
    process.execPath,
    [join(ROOT, 'server/dist/film.js'), 'no-such-lesson', '--out', out],
    { env: { ...process.env, UNDER_CHALK_HOME: stage.server.home }, encoding: 'utf8' },
  );
  expect(unknown.status).toBe(1);
  expect(unknown.stderr).toContain('There is nothing here.');
});
