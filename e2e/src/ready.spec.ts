import { expect, test, type Page } from '@playwright/test';
import {
  change,
  choosePractice,
  choosePracticeVoice,
  chooseReal,
  openBrowser,
  newLesson,
  recordFor,
  startRecording,
  stopRecording,
  WIDE,
  within,
} from './browser';
import { overhang, violations } from './checks';
import { makeSound } from './media';
import { setStage } from './stage';

/** Get ready: what is found before it can cost a lesson. */

const stage = setStage();
const sign = (page: Page) => page.getByTestId('recorder-sign');
const start = (page: Page) => page.getByRole('button', { name: 'Start recording' });

test('a dead microphone is found before and not after; recording without sound is on purpose', async () => {
  const { page, close } = await openBrowser({
    voice: makeSound(stage.folder, 'anullsrc=r=48000:cl=mono'),
  });
  const id = await newLesson(page, stage.server.url, 'Dead microphone');
  await change(page, 'What to show', /practice screen/);
  await expect(page.getByTestId('heard-words')).toHaveText('Nothing: is it muted?', {
    timeout: 20_000,
  });
  await change(page, 'How it begins', 'none');
  await page.getByRole('button', { name: 'Start recording' }).click();
  await expect(page.getByText('Nothing at all has come from the microphone.')).toBeVisible();
  expect((await stage.server.lesson(id)).takes).toHaveLength(0);
  await page.getByRole('button', { name: 'Record without sound' }).click();
  await expect(sign(page)).toHaveText('Recording', { timeout: 30_000 });
  await expect(page.getByText('Recording without sound.')).toBeVisible();
  await recordFor(page, 2);
  await stopRecording(page);
  await expect(page.getByText('There is no sound in this take.')).toBeVisible();
  // Nothing was written on it: of that there is no track either.
  const { tracks } = await stage.server.takeWhen(id);
  expect(tracks.map((track) => track.kind)).toEqual(['surface', 'camera']);
  await close();
});

test('with room for less than a minute it does not begin, and says where there is none', async () => {
  const { page, close } = await openBrowser({});
  // What the server's disk has left, as the server would tell it.
  let freeBytes = 60_000_000;
  await page.route('**/api/storage', (route) => route.fulfill({ json: { freeBytes } }));
  await newLesson(page, stage.server.url, 'No room');
  await choosePractice(page);
  await expect(
    page.getByText('There is room for less than a minute on the server’s disk.'),
  ).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Start recording' })).toBeDisabled();
  freeBytes = 350_000_000;
  await expect(
    page.getByText(/There is room for \d minutes of recording on the server’s disk/),
  ).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Start recording' })).toBeEnabled();
  await close();
});

test('a refused microphone is told with what to do, and can be tried again', async () => {
  const { page, close } = await openBrowser({ allow: false });
  await newLesson(page, stage.server.url, 'Refused');
  await expect(
    page.getByText('The browser does not let Under Chalk hear the microphone.'),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: 'Try again' }).first()).toBeVisible();
  await expect(
    page.getByText(/1\. Press the sign at the left end of the address line/).first(),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: /start$/ })).toBeDisabled();
  // The practice voice is a way on.
  await choosePracticeVoice(page);
  await expect(page.getByRole('button', { name: 'Start recording' })).toBeEnabled();
  await close();
});

test('a permission that is given in the browser’s own menu is used at once, with no reload', async () => {
  const { page, context, close } = await openBrowser({ allow: false });
  await newLesson(page, stage.server.url, 'Given later');
  await change(page, 'What to show', /^Sound alone/);
  const refused = page.getByText('The browser does not let Under Chalk hear the microphone.');
  await expect(refused).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await context.grantPermissions(['microphone']);
  await expect(refused).toBeHidden({ timeout: 60_000 });
  await expect(start(page)).toBeEnabled({ timeout: 60_000 });
  await close();
});

test('a phone that can’t record other apps says so, and offers what it can', async () => {
  const { page, close, complaints } = await openBrowser({});
  await page.addInitScript(() => {
    Reflect.deleteProperty(MediaDevices.prototype, 'getDisplayMedia');
  });
  const id = await newLesson(page, stage.server.url, 'On the phone');
  // The camera is chosen there by itself.
  await expect(page.getByRole('button', { name: /^What to show: The camera alone/ })).toBeVisible();
  await within(page, 'What to show', async () => {
    await expect(page.getByRole('radio', { name: /^A screen, a window/ })).toBeDisabled();
    await expect(page.getByText(/can’t record another app’s screen/)).toBeVisible();
  });
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await startRecording(page);
  await recordFor(page, 1.5);
  await stopRecording(page);
  const take = await stage.server.takeWhen(id);
  expect(take.tracks.map((track) => track.kind)).toEqual(['camera', 'voice']);
  expect(complaints).toEqual([]);
  await close();
});

test('choices are remembered, and a device that has gone is named', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await newLesson(page, stage.server.url, 'Remembered');
  await choosePractice(page);
  await change(page, 'How it begins', '5 s');
  await chooseReal(page, 'Camera');
  // Its name is known once it was opened.
  const named = page
    .getByRole('radiogroup', { name: 'Camera' })
    .getByRole('radio', { name: /fake/i });
  let name = '';
  await within(page, 'With', async () => {
    await named.first().click();
    name = (await named.first().innerText()).trim();
  });
  await page.addInitScript(() => {
    const list = MediaDevices.prototype.enumerateDevices;
    MediaDevices.prototype.enumerateDevices = async function without() {
      const all = await list.call(this);
      return all.filter((device) => device.kind !== 'videoinput');
    };
  });
  await page.reload();
  await expect(page.getByRole('button', { name: /^How it begins: Counts 5 s in/ })).toBeVisible();
  // The practice voice was for practising: the next lesson begins with a real one.
  await expect(page.getByRole('button', { name: /^With: .*your microphone/i })).toBeVisible();
  await within(page, 'With', async () => {
    await expect(page.getByRole('radio', { name: `${name} (not here)` })).toBeChecked();
  });
  await close();
});

test('the screen is kept awake while it records, and no longer', async () => {
  const { page, close } = await openBrowser({});
  await page.addInitScript(() => {
    const locks = { held: 0 };
    Object.assign(window, { locks });
    Object.defineProperty(navigator, 'wakeLock', {
      value: {
        request: async () => {
          locks.held++;
          return { release: async () => void locks.held-- };
        },
      },
    });
  });
  const held = () =>
    page.evaluate(() => (window as unknown as { locks: { held: number } }).locks.held);
  await newLesson(page, stage.server.url, 'Awake');
  await choosePracticeVoice(page);
  expect(await held()).toBe(0);
  await startRecording(page);
  expect(await held()).toBe(1);
  await stopRecording(page);
  await expect.poll(held).toBe(0);
  await close();
});
