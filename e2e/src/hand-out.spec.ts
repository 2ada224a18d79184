import { expect, test, type Page } from '@playwright/test';
import type { Destinations } from '@under-chalk/core/destination/destination';
import { mkdtemp, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonRow, LessonView } from '@under-chalk/core/contract/lessons';
import type { Material } from '@under-chalk/core/material/material';
import { openBrowser, PHONE, WIDE } from './browser';
import { readCode } from './code';
import { overhang, tooSmall, violations } from './checks';
import { LARGE_FILM_LIMIT, LARGE_FILM_S, makeLargeFilm } from './large-film';
import { probe } from './media';
import { setDemo, TABLE, WELCOME } from './demo';

/** The screens with the demo's lessons in them: what every step shows, and what students see. */

const demo = setDemo();
const { shareLinks } = demo;
let folder: string;
test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-share-link-'));
});
test.afterAll(() => rm(folder, { recursive: true, force: true }));

const openAt = async (page: Page, path: string, ready: string) => {
  await page.goto(demo.server.url + path);
  await page.getByText(ready).first().waitFor();
};

test(
  'the preview shows a place within 150 ms, and plays over a cut in step',
  { tag: '@alone' },
  async () => {
    const { page, close } = await openBrowser({ viewport: WIDE });
    await openAt(page, `/lessons/${WELCOME}/tidy`, 'Take 1');
    const slider = page.getByRole('slider', { name: 'Position in the film' });
    const canvas = page.locator('canvas');
    await expect(canvas).toHaveAttribute('data-seek-ms', /\d/);
    const took: number[] = [];
    for (const share of [0.9, 0.1, 0.55, 0.3, 0.75, 0.2, 0.65]) {
      await slider.evaluate((input: HTMLInputElement, to) => {
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
        set.call(input, String(Math.round(Number(input.max) * to)));
        input.dispatchEvent(new Event('input', { bubbles: true }));
      }, share);
      await page.waitForTimeout(400);
      took.push(Number(await canvas.getAttribute('data-seek-ms')));
    }
    const middle = [...took].sort((a, b) => a - b)[Math.floor(took.length / 2)]!;
    expect(middle, `each seek, ms: ${took.map(Math.round).join(' ')}`).toBeLessThan(150);

    const at = async () => Number(await slider.inputValue());
    const before = await at();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await page.waitForTimeout(3_000);
    const played = (await at()) - before;
    expect(played).toBeGreaterThan(2_000_000);
    expect(played).toBeLessThan(3_600_000);
    await page.getByRole('button', { name: 'Pause' }).click();
    await close();
  },
);

test('tidying by keyboard: cut, undo, redo, bring back; kept over a reload', async () => {
  const { page, close } = await openBrowser({});
  await openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
  const phrases = page.getByRole('list', { name: 'Phrases of take 1' }).getByRole('listitem');
  await phrases.first().waitFor();
  const count = await phrases.count();
  expect(count).toBeGreaterThan(5);
  const length = async () =>
    (await demo.server.ask<LessonRow[]>('GET', '/api/lessons')).find((row) => row.id === TABLE)!
      .filmUs;
  const whole = await length();
  const press = async (name: RegExp | string) => {
    const button = page.getByRole('button', { name }).first();
    await button.focus();
    await page.keyboard.press('Enter');
  };
  await press(/^Cut phrase 4/);
  await expect.poll(length).toBeLessThan(whole);
  const cut = await length();
  await press('Undo');
  await expect.poll(length).toBe(whole);
  await page.reload();
  await phrases.first().waitFor();
  await press('Redo');
  await expect.poll(length).toBe(cut);
  await press(/^Bring back/);
  await expect.poll(length).toBe(whole);
  await close();
});

test('the inset can be dragged in the picture', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
  const handle = page.getByTestId('inset-handle');
  const from = (await handle.boundingBox())!;
  const picture = (await page.locator('canvas').boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(picture.x + 300, picture.y + 200, { steps: 8 });
  await page.mouse.move(picture.x + 20, picture.y + 20, { steps: 8 });
  await page.mouse.up();
  await expect
    .poll(async () => {
      const { lesson } = await demo.server.ask<LessonView>('GET', `/api/lessons/${TABLE}`);
      return lesson.decisions.layouts[0]?.layout.inset;
    })
    .toMatchObject({ placeX: 0, placeY: 0 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await close();
});

test('materials go along where the teacher gives them, and are saved as they were brought in', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const brought = await demo.server.ask<Material[]>('GET', `/api/lessons/${WELCOME}/materials`);
  const { name } = brought.find(({ state }) => state === 'ready')!;
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await page.getByRole('button', { name: 'More to do with this link' }).click();
  await page.getByRole('menuitem', { name: 'Materials that go along…' }).click();
  const list = page.getByRole('list', { name: 'Materials that go along' });
  await list
    .getByRole('button', { name: /^Give / })
    .first()
    .click();
  await expect(list.getByText('Goes along')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page.goto(demo.server.url + (await demo.watchPath()));
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: `Download ${name}`, exact: false }).click();
  expect((await saving).suggestedFilename()).toBe(name);
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  // Kept back, it is gone from the page.
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await page.getByRole('button', { name: 'More to do with this link' }).click();
  await page.getByRole('menuitem', { name: 'Materials that go along…' }).click();
  await list.getByRole('button', { name: /^Keep back / }).click();
  await expect(list.getByText('Goes along')).toHaveCount(0);
  await page.goto(demo.server.url + (await demo.watchPath()));
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
  await expect(page.getByRole('button', { name: `Download ${name}`, exact: false })).toHaveCount(0);
  expect(complaints).toEqual([]);
  await close();
});

test('a link hangs on the wall as a code, which leads to it from the screen and from the picture that is saved', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  const address = await page.getByTestId('watch-address').first().innerText();
  await page.getByRole('button', { name: 'More to do with this link' }).first().click();
  await page.getByRole('menuitem', { name: 'A code for the wall…' }).click();
  const code = page.getByRole('img', { name: 'QR code that leads to “Week four: welcome”' });
  await expect(code).toBeVisible();
  expect([await violations(page), await tooSmall(page)]).toEqual([[], []]);
  expect(readCode(await code.screenshot())).toBe(address.trim());
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it as a picture' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('Week four welcome.png');
  expect(readCode(await readFile(await saved.path()))).toBe(address.trim());
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(
    page.getByRole('button', { name: 'More to do with this link' }).first(),
  ).toBeFocused();
  expect(complaints).toEqual([]);
  await close();
});

test('a file that is too large for its place is made to fit, and saved', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const { server } = demo;
  const id = 'lesson-too-large';
  await makeLargeFilm(server, folder, id);
  const before = await server.ask<Destinations>('GET', '/api/destinations');
  const { destinationId } = (await server.lesson(id)).decisions.plan;
  const place = before.destinations.find((one) => one.id === destinationId)!;
  await server.ask('POST', '/api/destinations', { ...place, mostBytes: LARGE_FILM_LIMIT });
  await demo.openAt(page, `/lessons/${id}/hand-out`, 'Files');
  await expect(page.getByText(/takes 1 MB, and it has/)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Make it fit 1 MB' }).click();
  const fitted = page.getByRole('button', { name: /^Save it fitted/ });
  await expect(fitted).toBeVisible({ timeout: 120_000 });
  expect(await overhang(page)).toBe(0);
  const saving = page.waitForEvent('download');
  await fitted.click();
  const file = join(folder, 'fitted.mp4');
  await (await saving).saveAs(file);
  const { size } = await stat(file);
  expect(size).toBeLessThanOrEqual(LARGE_FILM_LIMIT);
  expect(probe(file).seconds).toBeCloseTo(LARGE_FILM_S, 0);
  await server.ask('POST', '/api/destinations', place);
  expect(complaints).toEqual([]);
  await close();
});

test('a smaller file is told with its bytes beforehand, and keeps to them within a tenth', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const { bytes } = await makeLargeFilm(demo.server, folder, 'lesson-to-be-smaller');
  await demo.openAt(page, '/lessons/lesson-to-be-smaller/hand-out', 'Files');
  const said = Number((bytes / 2).toPrecision(2));
  await page
    .getByRole('button', { name: /^More to do with .*\.mp4/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: /^A smaller file \([\d.]+ MB\)$/ }).click();
  const save = page.getByRole('button', { name: /^Save the smaller one/ });
  await expect(save).toBeVisible({ timeout: 120_000 });
  expect([await violations(page), await overhang(page)]).toEqual([[], 0]);
  const saving = page.waitForEvent('download');
  await save.click();
  const file = join(folder, 'smaller.mp4');
  await (await saving).saveAs(file);
  const { size } = await stat(file);
  expect(size).toBeLessThanOrEqual(said);
  expect(size).toBeGreaterThan(0.9 * said);
  expect(complaints).toEqual([]);
  await close();
});

test('a student watches by keyboard, and the link can be taken away', async () => {
  const [shareLink] = await shareLinks();
  const student = await openBrowser({});
  const { page } = student;
  const asked: string[] = [];
  page.on('request', (request) => asked.push(new URL(request.url()).pathname));
  await openAt(page, `/w/${shareLink!.token}`, 'Ottilie Marsh');
  await expect(page.getByRole('heading', { name: 'Week four: welcome' })).toBeVisible();
  await expect(
    page.getByText('What is new this week, what is hard, and when I am away.'),
  ).toBeVisible();
  const time = () => page.evaluate(() => document.querySelector('video')!.currentTime);
  // The page is served before what plays it has come.
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('k');
  await expect.poll(time).toBeGreaterThan(0.8);
  await page.keyboard.press('k');
  const paused = await time();
  await page.keyboard.press('ArrowRight');
  await expect.poll(time).toBeGreaterThan(paused + 4.5);
  await page.getByRole('radio', { name: '1.5×' }).click();
  expect(await page.evaluate(() => document.querySelector('video')!.playbackRate)).toBe(1.5);
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Full screen' }).click();
  await expect.poll(() => page.evaluate(() => document.fullscreenElement !== null)).toBe(true);
  await page.evaluate(() => document.exitFullscreen());
  // Nothing but the film, by tickets, and its words was asked for: no lesson, take or track.
  const own = [`/api/watch/${shareLink!.token}`, '/api/media/'];
  const others = asked.filter(
    (path) => path.startsWith('/api/') && !own.some((begin) => path.startsWith(begin)),
  );
  expect(others).toEqual([]);
  expect(asked.some((path) => path.startsWith('/api/media/'))).toBe(true);

  const teacher = await openBrowser({});
  await openAt(teacher.page, `/lessons/${WELCOME}/hand-out`, 'Ready.');
  await teacher.page.getByRole('button', { name: 'Take it away' }).first().click();
  const back = teacher.page.getByRole('button', { name: 'Bring the link back' });
  await expect(back).toBeFocused();
  // Had back, it is the same link; then it goes after all.
  const watched = async () =>
    (await fetch(`${demo.server.url}/api/watch/${shareLink!.token}`)).status;
  expect(await watched()).toBe(404);
  await back.click();
  await expect.poll(watched).toBe(200);
  await teacher.page.getByRole('button', { name: 'Take it away' }).first().click();
  await expect(back).toBeVisible();
  expect((await fetch(`${demo.server.url}/api/watch/${shareLink!.token}/film.mp4`)).status).toBe(
    404,
  );
  await page.reload();
  await expect(page.getByText('There is no film at this address.')).toBeVisible();
  await teacher.close();
  await student.close();
});
