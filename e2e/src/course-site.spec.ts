import { expect, test, type Page } from '@playwright/test';
import type { ClassRow, ClassView } from '@under-chalk/core/contract/classes';
import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { readFile, writeFile } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { extname, join, normalize } from 'node:path';
import { openBrowser, PHONE, WIDE } from './browser';
import { overhang, violations } from './checks';
import { setDemo, WELCOME } from './demo';
import { setStage } from './stage';

/** A film as a package in a course site that knows nothing of us: it is told what was watched, by its own standard alone. */

const demo = setDemo();
const stage = setStage();
let site: Server;

const TYPES: Readonly<Record<string, string>> = {
  ...{ '.html': 'text/html', '.js': 'text/javascript', '.mp4': 'video/mp4' },
  ...{ '.jpg': 'image/jpeg', '.vtt': 'text/vtt' },
};

/** What a course site does: gives the package from its own address, in a frame, and keeps what that says (SCORM 1.2). */
const COURSE_PAGE = `<!doctype html><html lang="en"><title>A course</title><body style="margin:0"><script>
const kept = JSON.parse(localStorage.getItem('kept') ?? '{}');
const keep = () => localStorage.setItem('kept', JSON.stringify(kept));
window.API = {
  LMSInitialize: () => { kept.began = (kept.began ?? 0) + 1; keep(); return 'true'; },
  LMSGetValue: (name) => kept[name] ?? (name === 'cmi.core.lesson_status' ? 'not attempted' : ''),
  LMSSetValue: (name, value) => { if (typeof value !== 'string') throw new Error(name); kept[name] = value; return 'true'; },
  LMSCommit: () => { keep(); return 'true'; },
  LMSFinish: () => { kept.ended = (kept.ended ?? 0) + 1; keep(); return 'true'; },
};
</script><iframe title="The lesson" src="/package/index.html" style="border:0;width:100%;height:98vh" allow="fullscreen"></iframe></body></html>`;

test.beforeAll(async () => {
  const [film] = await demo.server.ask<{ id: string }[]>('GET', `/api/lessons/${WELCOME}/films`);
  const answer = await fetch(`${demo.server.url}/api/films/${film!.id}/scorm-1.2.zip`);
  expect(answer.status).toBe(200);
  const zip = join(stage.folder, 'scorm.zip');
  const folder = join(stage.folder, 'package');
  await writeFile(zip, Buffer.from(await answer.arrayBuffer()));
  execFileSync('python3', ['-m', 'zipfile', '-e', zip, folder]);
  site = createServer((request, response) => {
    const path = normalize(new URL(request.url ?? '/', 'http://site').pathname);
    if (!path.startsWith('/package/')) {
      return void response.writeHead(200, { 'Content-Type': 'text/html' }).end(COURSE_PAGE);
    }
    readFile(join(folder, path.slice('/package'.length))).then(
      (bytes) => {
        const [, from, to] = /^bytes=(\d+)-(\d*)$/.exec(request.headers.range ?? '') ?? [];
        const type = TYPES[extname(path)] ?? 'application/octet-stream';
        if (from === undefined) {
          return void response
            .writeHead(200, { 'Content-Type': type, 'Accept-Ranges': 'bytes' })
            .end(bytes);
        }
        const last = to ? Number(to) : bytes.length - 1;
        response
          .writeHead(206, {
            'Content-Type': type,
            'Content-Range': `bytes ${from}-${last}/${bytes.length}`,
          })
          .end(bytes.subarray(Number(from), last + 1));
      },
      () => response.writeHead(404).end(),
    );
  }).listen(0, '127.0.0.1');
  await once(site, 'listening');
});
test.afterAll(() => void site.close());

const kept = (page: Page): Promise<Record<string, string>> =>
  page.evaluate(() => JSON.parse(localStorage.getItem('kept') ?? '{}') as Record<string, string>);
const frameOf = async (page: Page) => {
  await page.goto(`http://127.0.0.1:${(site.address() as AddressInfo).port}/`);
  const frame = page.frameLocator('iframe');
  await frame.getByRole('heading', { name: 'Week four: welcome' }).waitFor();
  return frame;
};

test('is watched in it, goes on where one was, and is complete when enough of it was watched', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  const frame = await frameOf(page);
  const film = frame.locator('video');
  await expect(frame.getByText('0 % watched; your course counts it at 80 %.')).toBeVisible();
  // What is leapt over isn't watched.
  await frame.getByRole('button', { name: /When I am away/ }).click();
  const atS = () => film.evaluate((video: HTMLVideoElement) => video.currentTime);
  expect(await atS()).toBeGreaterThan(15);
  await film.evaluate((video: HTMLVideoElement) => {
    video.currentTime = 0;
    video.playbackRate = 2;
    return video.play();
  });
  await expect.poll(atS, { timeout: 30_000 }).toBeGreaterThan(10);
  await film.evaluate((video: HTMLVideoElement) => video.pause());
  await expect.poll(async () => (await kept(page))['cmi.core.lesson_status']).toBe('incomplete');
  const score = Number((await kept(page))['cmi.core.score.raw']);
  expect(score).toBeGreaterThan(25);
  expect(score).toBeLessThan(50);

  // Another day: it goes on there, and what was watched counts.
  const again = await frameOf(page);
  const later = again.locator('video');
  await expect
    .poll(() => later.evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(9);
  expect((await kept(page))['ended']).toBe(1);
  await later.evaluate((video: HTMLVideoElement) => {
    video.playbackRate = 2;
    return video.play();
  });
  await expect(again.getByText('Watched. Your course knows.')).toBeVisible({ timeout: 120_000 });
  expect((await kept(page))['cmi.core.lesson_status']).toBe('completed');
  expect((await kept(page))['cmi.core.session_time']).toMatch(/^0000:00:\d\d\.\d\d$/);
  expect(await violations(page)).toEqual([]);
  expect(complaints).toEqual([]);
  await close();
});

test('fits a phone, has its captions, and asks for nothing from elsewhere', async () => {
  const { page, close } = await openBrowser({ viewport: PHONE });
  const elsewhere: string[] = [];
  page.on('request', (request) => {
    const { host } = new URL(request.url());
    if (host !== `127.0.0.1:${(site.address() as AddressInfo).port}`) elsewhere.push(request.url());
  });
  const frame = await frameOf(page);
  const tracks = await frame
    .locator('video')
    .evaluate((video: HTMLVideoElement) => [...video.textTracks].map(({ language }) => language));
  expect(tracks).toEqual(['en', 'de']);
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  expect(elsewhere).toEqual([]);
  await close();
});

test('the films of a unit open from a stick, without a line: with captions, chapters and what goes along', async () => {
  const { server } = demo;
  const { plan } = (await server.lesson(WELCOME)).decisions;
  const classes = await server.ask<ClassRow[]>('GET', '/api/classes');
  const { id: classId } = classes.find(({ name }) => name === plan.className)!;
  const unit = (await server.ask<ClassView>('GET', `/api/classes/${classId}`)).units.find(
    ({ name }) => name === plan.unit,
  )!;
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${server.url}/classes/${classId}`);
  const menu = page.getByRole('button', { name: `More to do with ${unit.name}` });
  await menu.click();
  await expect(page.getByRole('menuitem', { name: 'All its films (ZIP)' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'All its films (ZIP)' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe(`${plan.className} - ${unit.name}.zip`);
  const zip = join(stage.folder, 'unit.zip');
  await download.saveAs(zip);
  const folder = join(stage.folder, 'unit');
  execFileSync('python3', ['-m', 'zipfile', '-e', zip, folder]);

  const asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  await page.goto(`file://${folder}/index.html`);
  await expect(page.getByRole('heading', { name: unit.name })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page.getByRole('link', { name: 'Week four: welcome' }).click();
  const film = page.locator('video');
  await expect
    .poll(() =>
      film.evaluate((video: HTMLVideoElement) => {
        for (const track of video.textTracks) track.mode = 'hidden';
        return [...video.textTracks].map(({ cues }) => (cues?.length ?? 0) > 2);
      }),
    )
    .toEqual([true, true]);
  await page.getByRole('button', { name: /When I am away/ }).click();
  await expect
    .poll(() => film.evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(15);
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page
    .getByRole('link', { name: /^Transcript/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Week four: welcome' })).toBeVisible();
  expect(asked.filter((url) => !url.startsWith('file://') && !url.startsWith('data:'))).toEqual([]);
  expect(complaints).toEqual([]);
  await close();
});
