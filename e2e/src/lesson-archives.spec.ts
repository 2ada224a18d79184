import { expect, test, type Page } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, PHONE } from './browser';
import { overhang, tooSmall, violations } from './checks';
import { setDemo, TABLE } from './demo';
import { ffmpeg, probe } from './media';
import { startEmpty } from './prepared-homes';
import { type RealServer, ROOT } from './server';

/** A lesson as one archive: saved from one Under Chalk, brought into another, and made a film of with neither. */

const demo = setDemo();
let folder = '';
test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-bundles-'));
});
test.afterAll(() => rm(folder, { recursive: true, force: true }));

const bundle = async (server: RealServer): Promise<Buffer> => {
  const answer = await fetch(`${server.url}/api/lessons/${TABLE}/archive.zip`);
  return Buffer.from(await answer.arrayBuffer());
};
const saved = async () => {
  const path = join(folder, 'Reading a tide table.zip');
  await writeFile(path, await bundle(demo.server));
  return path;
};
const chosen = (page: Page, path: string) =>
  page.getByLabel('Archive of a lesson').setInputFiles(path);

test('a lesson that was saved is brought into another Under Chalk, on a phone, and is the same', async () => {
  const other = await startEmpty();
  try {
    const { page, close, complaints } = await openBrowser({ viewport: PHONE });
    await page.goto(other.url);
    const bring = page.getByRole('button', { name: /^Import lesson from a lesson archive/ });
    await expect(bring).toBeVisible();
    expect([await violations(page), await tooSmall(page), await overhang(page)]).toEqual([
      [],
      [],
      0,
    ]);
    // What is no lesson is told, and nothing has changed.
    const wrong = join(folder, 'holiday.zip');
    await writeFile(wrong, 'PK, but nothing else');
    await chosen(page, wrong);
    await expect(
      page.getByText('This is not the archive of a lesson, or it is damaged.'),
    ).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await expect(page.getByText('No lesson yet.')).toBeVisible();

    await chosen(page, await saved());
    await expect(page).toHaveURL(new RegExp(`/lessons/${TABLE}/tidy$`), { timeout: 120_000 });
    await expect(page.getByRole('button', { name: /^Phrase 1, / }).first()).toBeVisible({
      timeout: 120_000,
    });
    expect((await bundle(other)).equals(await bundle(demo.server))).toBe(true);
    expect(complaints).toEqual([]);
    await close();
  } finally {
    await other.remove();
  }
});

test('a server that is killed while a lesson comes in goes on with it, once', async () => {
  const other = await startEmpty();
  try {
    const { page, close } = await openBrowser({ viewport: PHONE });
    await page.goto(other.url);
    let killed: Promise<void> | null = null;
    // As soon as all bytes are there: while it is opened.
    page.on('request', (request) => {
      if (!killed && request.url().endsWith('/open')) killed = other.kill().then(() => other.up());
    });
    await chosen(page, await saved());
    await expect(page).toHaveURL(new RegExp(`/lessons/${TABLE}/tidy$`), { timeout: 180_000 });
    expect(killed).not.toBeNull();
    await expect
      .poll(async () => (await other.lesson(TABLE)).takes[0]?.state, { timeout: 120_000 })
      .toBe('ready');
    expect((await other.ask<unknown[]>('GET', '/api/lessons')).length).toBe(1);
    expect((await bundle(other)).equals(await bundle(demo.server))).toBe(true);
    await close();
  } finally {
    await other.remove();
  }
});

test('the command line makes the film of an archive: the one that the lesson itself gives', async () => {
  const film = (...args: string[]) =>
    spawnSync(
      process.execPath,
      [join(ROOT, 'server/dist/film.js'), ...args, '--size', 'as-recorded'],
      {
        env: { ...process.env, UNDER_CHALK_HOME: demo.server.home },
        encoding: 'utf8',
      },
    );
  // A short one is enough.
  const [take] = (await demo.server.lesson(TABLE)).takes;
  const onward = { startUs: 8_000_000, endUs: take!.durationUs };
  await demo.server.edit(TABLE, { do: 'cut', takeId: take!.id, ...onward });
  const archive = await saved();
  const [ofArchive, ofLesson] = [join(folder, 'archive.mp4'), join(folder, 'lesson.mp4')];
  const one = film(archive, '--out', ofArchive);
  expect(one.status, one.stderr).toBe(0);
  const other = film(TABLE, '--out', ofLesson);
  expect(other.status, other.stderr).toBe(0);
  expect(probe(ofArchive).video!['nb_frames']).toBe(probe(ofLesson).video!['nb_frames']);
  const pictures = (file: string) =>
    ffmpeg('-i', file, '-map', '0:v', '-f', 'md5', 'pipe:1').toString();
  expect(pictures(ofArchive)).toBe(pictures(ofLesson));
  const damaged = join(folder, 'damaged.zip');
  await writeFile(damaged, (await readFile(archive)).subarray(0, 5_000));
  const refused = film(damaged, '--out', ofArchive);
  expect([refused.status, refused.stderr]).toEqual([
    1,
    expect.stringContaining('not the archive of a lesson'),
  ]);
});
