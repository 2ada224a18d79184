import { expect, test, type Page } from '@playwright/test';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { GivenIn } from '@under-chalk/core/contract/submissions';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, PHONE, WIDE } from './browser';
import { fine } from './checks';
import { setDemo, WELCOME } from './demo';
import { ffmpeg, makeSound, tonesStrength } from './media';

/** What is to be done after a film: put below it, done and handed in on a phone, and seen by the teacher. */

const demo = setDemo();
const CLASS = 'class-coastal-navigation';
const DEMO = ['Bram Okafor', 'Sunniva Petel'];
const folder = mkdtempSync(join(tmpdir(), 'under-chalk-submissions-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

const link = async () =>
  (await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${WELCOME}/share-links`))[0]!;
const given = async () =>
  demo.server.ask<GivenIn>('GET', `/api/share-links/${(await link()).id}/submissions`);
/** But for what the demo has. */
const inShort = async () =>
  (await given()).submissions
    .filter(({ name }) => !DEMO.includes(name))
    .map(({ name, text, files }) => [
      ...[name, text],
      files.map(({ name: file, kind }) => `${file} ${kind}`).sort(),
    ]);
const toFilm = async (page: Page, name: string) => {
  const view = await demo.server.ask<ClassView>('GET', `/api/classes/${CLASS}`);
  const student = view.students.find((one) => one.name === name)!;
  const { key } = await demo.server.ask<StudentPage>('POST', `/api/students/${student.id}/page`);
  await page.goto(`${demo.server.url}/s/${key}`);
  const tile = page.getByRole('link', { name: /^Week four: welcome/ }).first();
  await expect(tile).toBeVisible();
  return tile;
};
/** Opens the film, and goes down to what is to be done. */
const toTask = async (page: Page, name: string) => {
  await (await toFilm(page, name)).click();
  const heading = page.getByRole('heading', { name: 'Assignment' });
  await heading.evaluate((element) => element.scrollIntoView());
};

test('a teacher puts it below the film, on a phone, by keys', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await page.getByRole('button', { name: 'More to do with this link' }).first().press('Enter');
  await page.getByRole('menuitem', { name: 'To do afterwards…' }).press('Enter');
  const what = page.getByLabel('What is to be done');
  await expect(what).toHaveValue(/^Plot a course/);
  await what.fill(' ');
  await expect(page.getByRole('button', { name: 'Put it below the film' })).toBeDisabled();
  await what.fill(
    'Plot a course to steer across the estuary.\nWrite down the course, and show your plot.',
  );
  await page.getByLabel('By when').fill('2030-12-04T18:00');
  await page.getByRole('checkbox', { name: 'half a minute of camera' }).press(' ');
  await page.getByLabel('What comes then').fill('read about tidal streams, page 12.');
  await fine(page);
  await page.getByRole('button', { name: 'Put it below the film' }).press('Enter');
  await expect(page.getByText(/^To do afterwards, until Wednesday 4 December/)).toBeVisible();
  await page.getByRole('button', { name: 'What was handed in (2)' }).click();
  const list = page.getByRole('list', { name: 'What was handed in' });
  await expect(list.getByRole('img', { name: 'Plot by Bram Okafor.png' })).toBeVisible();
  await expect(page.getByText(/^Not yet: .*Wen Castellan/)).toBeVisible();
  await fine(page);
  expect(complaints).toEqual([]);
  await close();
});

test('a student writes and adds files with no line, reloads, and it is handed in when the line is back', async () => {
  const plot = join(folder, 'my plot.png');
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x480', '-frames:v', '1', plot);
  const program = join(folder, 'plotter.exe');
  writeFileSync(program, Buffer.from('MZ\u0090\u0000\u0003'));
  const { page, close } = await openBrowser({ viewport: PHONE });
  const tile = await toFilm(page, 'Wen Castellan');
  await expect(tile).toContainText('Assignment due Wednesday 4 December');
  await fine(page);
  await toTask(page, 'Wen Castellan');
  await fine(page);
  const button = page.getByRole('button', { name: 'Submit', exact: true });
  await expect(button).toBeDisabled();
  // No line from here on.
  await page.route(/\/submission/, (route) =>
    route.request().method() === 'GET' ? route.continue() : route.abort(),
  );
  await page.getByLabel('Your text').fill('Steer 087 degrees.');
  await page.locator('input[type=file]').setInputFiles(plot);
  const files = page.getByRole('list', { name: 'Files to submit' });
  await expect(files).toContainText('waiting to upload');
  await button.click();
  await expect(page.getByText(/submitted when everything is uploaded/)).toBeVisible();
  await fine(page);
  await page.reload();
  await expect(page.getByLabel('Your text')).toHaveValue('Steer 087 degrees.');
  await expect(files).toContainText('my plot.png');
  expect(await inShort()).toEqual([]);
  await page.unroute(/\/submission/);
  await page.evaluate(() => dispatchEvent(new Event('online')));
  await expect(page.getByText(/^Submitted on /)).toBeVisible({ timeout: 30_000 });
  expect(await inShort()).toEqual([
    ['Wen Castellan', 'Steer 087 degrees.', ['my plot.png picture']],
  ]);

  // A program isn't taken, and what was handed in stays until something else is.
  await page.locator('input[type=file]').setInputFiles(program);
  await expect(page.getByText('This kind of file can’t be submitted.')).toBeVisible();
  await expect(page.getByText(/You have changed it since then/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Submit again' })).toBeDisabled();
  await page.getByRole('button', { name: 'Remove plotter.exe' }).click();
  await page.getByLabel('Your text').fill('Steer 086 degrees.');
  await page.getByRole('button', { name: 'Submit again' }).click();
  await expect(page.getByText(/You have changed it/)).toHaveCount(0);
  expect(await inShort()).toEqual([
    ['Wen Castellan', 'Steer 086 degrees.', ['my plot.png picture']],
  ]);
  await close();

  // On another device it is gone on with.
  const other = await openBrowser({ viewport: WIDE });
  await toTask(other.page, 'Wen Castellan');
  await expect(other.page.getByLabel('Your text')).toHaveValue('Steer 086 degrees.');
  await expect(other.page.getByText(/^Submitted on /)).toBeVisible();
  await fine(other.page);
  await other.close();
});

test('an upload that is cut in the middle goes on after a reload, and the server’s death', async () => {
  const long = join(folder, 'estuary.mp4');
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'nullsrc=s=640x360:r=30,geq=random(1)*255:128:128', '-t', '3'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '2', '-pix_fmt', 'yuv420p', long],
  );
  const { page, close } = await openBrowser({ viewport: PHONE });
  await toTask(page, 'Ines Carrow');
  // A slow line: the rest of the bytes never comes.
  await page.route(/\/submission-uploads\/.+/, async (route) => {
    if (route.request().method() === 'PATCH') await route.abort();
    else await route.continue();
  });
  await page.locator('input[type=file]').setInputFiles(long);
  await expect(page.getByRole('list', { name: 'Files to submit' })).toContainText('estuary.mp4');
  await page.getByRole('button', { name: 'Submit', exact: true }).click();
  await page.waitForTimeout(1_500);
  await demo.server.kill();
  await page.reload({ timeout: 2_000 }).catch(() => undefined);
  await demo.server.up();
  await page.unroute(/\/submission-uploads\/.+/);
  // Though nobody goes down to it: what waits is sent.
  await (await toFilm(page, 'Ines Carrow')).click();
  await expect(page.getByText(/^Submitted on /)).toBeVisible({ timeout: 120_000 });
  expect(await inShort()).toContainEqual(['Ines Carrow', '', ['estuary.mp4 film']]);
  await close();
});

test('half a minute of voice is heard, kept and handed in; a refused microphone says what to do', async () => {
  const voice = makeSound(folder, 'sine=f=440:r=48000:d=8');
  const refusing = await openBrowser({ viewport: PHONE, allow: false });
  await toTask(refusing.page, 'Noor Halden');
  await refusing.page.getByRole('button', { name: 'Record voice (30 s)' }).click();
  await expect(refusing.page.getByText(/doesn’t allow the microphone/)).toBeVisible();
  await fine(refusing.page);
  await refusing.close();

  const { page, close } = await openBrowser({ viewport: PHONE, voice, allow: true });
  await toTask(page, 'Noor Halden');
  await page.getByRole('button', { name: 'Record voice (30 s)' }).click();
  await expect(page.getByText('Ready to record.')).toBeVisible();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('0:03 of 0:30')).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText('Recorded. Play it to check.')).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Use recording', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Files to submit' })).toContainText('· uploaded');
  await page.getByRole('button', { name: 'Record video (30 s)' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('0:02 of 0:30')).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Use recording', exact: true }).click();
  await expect(page.getByText(/· uploaded/)).toHaveCount(2, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Submit', exact: true }).click();
  await expect(page.getByText(/^Submitted on /)).toBeVisible();
  expect(await inShort()).toContainEqual([
    ...['Noor Halden', ''],
    ['Camera.mp4 film', 'Voice.m4a sound'],
  ]);
  const { id } = await link();
  const one = (await given()).submissions.find(({ name }) => name === 'Noor Halden')!;
  const file = one.files.find(({ by }) => by === 'voice')!;
  const saved = await fetch(`${demo.server.url}/api/share-links/${id}/submissions/${file.id}`);
  const path = join(folder, 'handed.m4a');
  writeFileSync(path, Buffer.from(await saved.arrayBuffer()));
  const [tone, other] = [440, 1_300].map((hertz) => Math.max(...tonesStrength(path, hertz)));
  expect(tone).toBeGreaterThan(10 * other!);
  await close();
});

test('the teacher sees what was handed in, hears it, and who hasn’t', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await demo.openAt(page, `/lessons/${WELCOME}/hand-out`, 'Links');
  await page.getByRole('button', { name: 'What was handed in (5)' }).first().click();
  const list = page.getByRole('list', { name: 'What was handed in' });
  await expect(list.getByRole('listitem')).toHaveCount(5);
  await expect(list).toContainText('Steer 086 degrees.');
  const sound = list.locator('audio');
  await expect
    .poll(() => sound.evaluate((audio: HTMLAudioElement) => audio.duration))
    .toBeGreaterThan(2);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    list.getByRole('button', { name: /^Save my plot.png from Wen Castellan/ }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('my plot.png');
  await expect(page.getByText(/^Not yet: .*Pia Sorrell/)).toBeVisible();
  await expect(page.getByText(/^Not yet: .*Wen/)).toHaveCount(0);
  await fine(page);
  // Taken away again, it is below the film no more; what was handed in is still there.
  await page.getByRole('button', { name: 'More to do with this link' }).first().click();
  await page.getByRole('menuitem', { name: 'To do afterwards…' }).click();
  await page.getByRole('button', { name: 'Take it away again' }).click();
  await expect(page.getByText(/^To do afterwards, until/)).toHaveCount(0);
  expect((await given()).submissions).toHaveLength(5);
  expect(complaints).toEqual([]);
  await close();
});
