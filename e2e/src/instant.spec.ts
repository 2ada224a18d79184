import { expect, test, type Page } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { once } from 'node:events';
import { readdir, readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import {
  choosePractice,
  openBrowser,
  PHONE,
  newLesson,
  recordFor,
  startRecording,
  stopRecording,
  WIDE,
} from './browser';
import { fine } from './checks';
import { ffmpeg } from './media';
import { setStage } from './stage';

/** The link at once: a film that plays while it is being made, and stays right. */

const stage = setStage();

const linksOf = (lessonId: string) =>
  stage.server.ask<ShareLink[]>('GET', `/api/lessons/${lessonId}/share-links`);
const stateOf = async (lessonId: string) => (await linksOf(lessonId))[0]!.film.state;
const atS = (page: Page) => page.evaluate(() => document.querySelector('video')!.currentTime);
const lengthS = (page: Page) => page.evaluate(() => document.querySelector('video')!.duration);
/** What the browser has decoded of a film, and how bright its picture is and how much that differs from place to place. */
const seen = (page: Page) =>
  page.evaluate(() => {
    const film = document.querySelector('video') as unknown as HTMLVideoElement & {
      webkitDecodedFrameCount: number;
      webkitAudioDecodedByteCount: number;
    };
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [64, 36];
    const context = canvas.getContext('2d')!;
    context.drawImage(film, 0, 0, 64, 36);
    const { data } = context.getImageData(0, 0, 64, 36);
    const light = data.filter((_, at) => at % 4 === 1);
    return {
      frames: film.webkitDecodedFrameCount,
      sound: film.webkitAudioDecodedByteCount,
      contrast: Math.max(...light) - Math.min(...light),
    };
  });

/** A lesson of so many seconds: a picture that changes, and a tone. */
const bringIn = async (id: string, seconds: number, size = '1280x720'): Promise<void> => {
  const { server, folder } = stage;
  const [picture, voice] = [join(folder, `${id}.mp4`), join(folder, `${id}-voice.mp4`)];
  const fragmented = ['-movflags', '+frag_keyframe+empty_moov+default_base_moof'];
  ffmpeg(
    ...['-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=30`, '-t', String(seconds)],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '60'],
    ...['-pix_fmt', 'yuv420p', ...fragmented, picture],
  );
  ffmpeg(
    ...['-f', 'lavfi', '-i', `sine=f=440:r=48000:d=${seconds}`, '-c:a', 'aac'],
    ...[...fragmented, voice],
  );
  await server.ask('POST', '/api/lessons', { id, title: 'Set and drift' });
  const tracks = { surface: picture, voice };
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'screen', practice: false },
    tracks: Object.keys(tracks).map((kind) => ({ id: `take-${id}-${kind}`, kind })),
  });
  for (const [kind, path] of Object.entries(tracks)) {
    await server.send(`take-${id}-${kind}`, await readFile(path));
  }
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id);
};

test(
  'recorded, stopped, handed out: it plays on another device at once, with picture and sound',
  { tag: '@alone' },
  async () => {
    const teacher = await openBrowser({ viewport: PHONE });
    const lessonId = await newLesson(teacher.page, stage.server.url, 'Set and drift');
    await choosePractice(teacher.page);
    await startRecording(teacher.page);
    await recordFor(teacher.page, 26);
    const busy = await teacher.page.getByText(/pictures were left out/).count();
    await stopRecording(teacher.page);
    await stage.server.takeWhen(lessonId);
    // While it was recorded its film was made, where the recorder had time for it.
    const made = await readdir(join(stage.server.home, 'cache', 'chunks')).catch(() => []);
    expect(busy > 0 || made.filter((name) => name.endsWith('.mp4')).length > 0).toBe(true);
    await teacher.page.goto(`${stage.server.url}/lessons/${lessonId}/hand-out`);
    await teacher.page.getByRole('button', { name: 'Make a link and copy it' }).click();
    const address = await teacher.page.getByTestId('watch-address').textContent();
    const student = await openBrowser({ viewport: PHONE });
    await student.page.goto(address!);
    await student.page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(() => atS(student.page), { timeout: 60_000 }).toBeGreaterThan(0.5);
    await expect(student.page.getByText(/being made|process/i)).toHaveCount(0);
    await expect.poll(async () => (await seen(student.page)).sound).toBeGreaterThan(5_000);
    const { frames, contrast } = await seen(student.page);
    expect(frames).toBeGreaterThan(10);
    expect(contrast).toBeGreaterThan(60);
    // To its end, as it is made.
    await expect
      .poll(async () => (await lengthS(student.page)) - (await atS(student.page)), {
        timeout: 40_000,
      })
      .toBeLessThan(0.3);
    expect(student.complaints).toEqual([]);
    await student.close();
    await teacher.close();
  },
);

test('a server that is killed while a student watches what it makes: the film goes on', async () => {
  const id = 'lesson-killed';
  await bringIn(id, 60, '640x360');
  const { token } = await stage.server.ask<ShareLink>('POST', `/api/lessons/${id}/share-links`, {
    size: '720p',
  });
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(`${stage.server.url}/w/${token}`);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => atS(page), { timeout: 60_000 }).toBeGreaterThan(1);
  expect(await stateOf(id)).toBe('making');
  await stage.server.kill();
  await page.waitForTimeout(3_000);
  await stage.server.up();
  // A place that nobody had made before.
  await page.getByRole('slider', { name: 'Position in the film' }).focus();
  await page.evaluate(() => void (document.querySelector('video')!.currentTime = 45));
  await expect.poll(() => atS(page), { timeout: 120_000 }).toBeGreaterThan(46);
  await expect.poll(() => stateOf(id), { timeout: 180_000 }).toBe('done');
  await close();
});

test('whoever watches for longer than an address is good goes on with another', async () => {
  const id = 'lesson-killed';
  const { token } = (await linksOf(id))[0]!;
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.clock.install();
  const under = new Set<string>();
  let given = 0;
  page.on('request', (request) => {
    const { pathname } = new URL(request.url());
    if (pathname.endsWith('.m4s')) under.add(pathname.split('/')[3]!);
    if (pathname.endsWith('/ticket')) given++;
    // No address of a piece tells the link.
    if (pathname.startsWith('/api/media/')) expect(pathname).not.toContain(token!);
  });
  // Not so fast that all of it has come within a second.
  await page.route(/\.m4s$/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1_000));
    await route.continue();
  });
  await page.goto(`${stage.server.url}/w/${token}`);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => atS(page), { timeout: 60_000 }).toBeGreaterThan(1);
  expect(given).toBe(0);
  const before = [...under];
  // Minutes later, at a place that hasn't been fetched.
  await page.clock.fastForward(4 * 60_000);
  await page.evaluate(() => void (document.querySelector('video')!.currentTime = 50));
  await expect.poll(() => atS(page), { timeout: 30_000 }).toBeGreaterThan(51);
  expect(given).toBe(1);
  expect([...under].filter((ticket) => !before.includes(ticket))).toHaveLength(1);
  await close();
});

test('mended under the same link: who watches goes on, a reload has the new film, and the old one can be put back', async () => {
  const id = 'lesson-mended';
  await bringIn(id, 30, '640x360');
  const { token } = await stage.server.ask<ShareLink>('POST', `/api/lessons/${id}/share-links`, {
    size: 'as-recorded',
  });
  const student = await openBrowser({ viewport: WIDE });
  const watched = student.page;
  const playing = async () => {
    await watched.getByRole('button', { name: 'Play', exact: true }).waitFor();
    await watched.keyboard.press('k');
  };
  await watched.goto(`${stage.server.url}/w/${token}`);
  await playing();
  await expect.poll(() => atS(watched), { timeout: 60_000 }).toBeGreaterThan(1);
  await watched.keyboard.press('k');
  const take = `take-${id}`;
  await stage.server.edit(id, { do: 'cut', takeId: take, startUs: 0, endUs: 12_000_000 });
  const teacher = await openBrowser({ viewport: PHONE });
  const { page } = teacher;
  await page.goto(`${stage.server.url}/lessons/${id}/hand-out`);
  await page.getByText('The lesson has been changed since it was handed out here.').waitFor();
  await fine(page);
  await page.getByRole('button', { name: 'Hand out the change under this link' }).click();
  await expect(page.getByText('The lesson has been changed since')).toHaveCount(0);

  // Where nothing had been fetched of the old film yet.
  await watched.evaluate(() => void (document.querySelector('video')!.currentTime = 27));
  await watched.keyboard.press('k');
  // The new one is being made beside it.
  await expect.poll(() => atS(watched), { timeout: 120_000 }).toBeGreaterThan(27.5);
  expect(Math.round(await lengthS(watched))).toBe(30);
  await watched.reload();
  await playing();
  await expect.poll(() => lengthS(watched), { timeout: 60_000 }).toBeLessThan(18.5);

  // The teacher can end playback of the earlier film.
  await expect(page.getByText(/^Students who have the earlier film open/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop the earlier film now' }).press('Enter');
  await expect(page.getByText('The earlier film is stopped.')).toBeVisible();
  await expect(page.getByText(/^Students who have the earlier film open/)).toHaveCount(0);
  await page.getByRole('button', { name: 'More to do with this link' }).click();
  await page.getByRole('menuitem', { name: 'Films given before…' }).click();
  await fine(page);
  await page.getByRole('button', { name: /^Put back the film of/ }).click();
  await expect.poll(async () => (await linksOf(id))[0]!.given.length).toBe(3);
  await watched.reload();
  await playing();
  await expect.poll(() => lengthS(watched), { timeout: 60_000 }).toBeGreaterThan(29);
  await student.close();
  await teacher.close();
});

test('a link opens and closes at its times, and students are told in a sentence', async () => {
  const id = 'lesson-times';
  await bringIn(id, 12);
  const { token } = await stage.server.ask<ShareLink>('POST', `/api/lessons/${id}/share-links`, {
    size: '720p',
  });
  const teacher = await openBrowser({ viewport: PHONE });
  const { page } = teacher;
  await page.goto(`${stage.server.url}/lessons/${id}/hand-out`);
  await page.getByRole('button', { name: 'More to do with this link' }).click();
  await page.getByRole('menuitem', { name: 'When it can be watched…' }).click();
  await page.getByLabel('Opens').fill('2031-03-04T08:00');
  await page.getByLabel('Closes').fill('2031-03-01T08:00');
  await expect(page.getByText('It would close before it opens.')).toBeVisible();
  await page.getByLabel('Closes').fill('2031-03-08T20:00');
  await fine(page);
  await page.getByRole('button', { name: 'Keep these times' }).click();
  await expect(page.getByText(/^Opens Tuesday,? 4 March/)).toBeVisible();

  const student = await openBrowser({ viewport: PHONE });
  const html = await (await fetch(`${stage.server.url}/w/${token}`)).text();
  expect(html).toContain('This film isn’t available yet.');
  await student.page.goto(`${stage.server.url}/w/${token}`);
  await expect(student.page.getByText(/Available from Tuesday,? 4 March at 08:00/)).toBeVisible();
  await fine(student.page);

  await page.getByRole('button', { name: 'More to do with this link' }).click();
  await page.getByRole('menuitem', { name: 'When it can be watched…' }).click();
  await page.getByRole('button', { name: 'Open, with no end' }).click();
  await expect(page.getByText('Open to anyone with the link · 720p')).toBeVisible();
  await student.page.reload();
  await expect(student.page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await student.close();
  await teacher.close();
});

test('a student’s keys, the place where one was, and the player alone in another page', async () => {
  const id = 'lesson-keys';
  await bringIn(id, 40, '640x360');
  const { token } = await stage.server.ask<ShareLink>('POST', `/api/lessons/${id}/share-links`, {
    size: 'as-recorded',
  });
  await expect.poll(() => stateOf(id), { timeout: 150_000 }).toBe('done');
  const { page, context, close } = await openBrowser({ viewport: PHONE });
  await page.goto(`${stage.server.url}/w/${token}`);
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
  await page.keyboard.press('?');
  const card = page.getByRole('list', { name: 'Keyboard shortcuts' });
  await expect(card).toBeVisible();
  await fine(page);
  await page.keyboard.press('?');
  await expect(card).toHaveCount(0);
  await page.keyboard.press('l');
  await page.keyboard.press('l');
  await expect.poll(() => atS(page)).toBeGreaterThan(19);
  await page.keyboard.press('j');
  await expect.poll(() => atS(page)).toBeLessThan(11);
  await page.keyboard.press('>');
  await expect
    .poll(() => page.evaluate(() => document.querySelector('video')!.playbackRate))
    .toBe(1.25);
  await page.getByRole('button', { name: 'Forward 10 seconds' }).click();
  await page.getByRole('button', { name: 'Forward 10 seconds' }).click();
  await expect.poll(() => atS(page)).toBeGreaterThan(28);
  await page.waitForTimeout(500);
  await page.reload();
  await expect(page.getByText('Continues at 0:30, where you stopped.')).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => atS(page), { timeout: 60_000 }).toBeGreaterThan(30);

  // In a page of another site.
  const oEmbed = await stage.server.ask<{ html: string; width: number; height: number }>(
    'GET',
    `/api/watch/${token}/oembed`,
  );
  expect([oEmbed.width, oEmbed.height]).toEqual([1280, 720]);
  const elsewhere = createServer((_, answer) =>
    answer
      .setHeader('Content-Type', 'text/html')
      .end(`<!doctype html><main><h1>Week four</h1>${oEmbed.html}</main>`),
  ).listen(0, '127.0.0.1');
  await once(elsewhere, 'listening');
  const site = await context.newPage();
  await site.setViewportSize(WIDE);
  await site.goto(`http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`);
  const framed = site.frameLocator('iframe');
  await framed.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => framed.locator('video').evaluate((film: HTMLVideoElement) => film.currentTime), {
      timeout: 20_000,
    })
    .toBeGreaterThan(0.5);
  await expect(framed.getByRole('heading')).toHaveCount(0);
  await expect(framed.getByRole('button', { name: 'Full screen' })).toBeVisible();
  await close();
  elsewhere.close();
});
