import { expect, test, type Page } from '@playwright/test';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { join } from 'node:path';
import {
  change,
  choosePractice,
  chooseReal,
  goToTidy,
  openBrowser,
  newLesson,
  recordedMs,
  recordFor,
  startRecording,
  stopRecording,
} from './browser';
import { makeSound, probe, samplesOf } from './media';
import { setStage } from './stage';

const stage = setStage();

const bringIn = async (page: Page, name: string, buffer: Buffer) =>
  page.getByLabel('Film to bring in').setInputFiles({ name, mimeType: 'video/mp4', buffer });

test('a killed tab leaves all but the last two seconds, and it can be kept at once', async () => {
  const first = await openBrowser({});
  const lessonId = await newLesson(first.page, stage.server.url, 'Torn off');
  await choosePractice(first.page);
  await startRecording(first.page);
  await recordFor(first.page, 15);
  const clock = await first.page.getByTestId('recorder-clock').textContent();
  // The whole browser ends, with no chance to say goodbye.
  await first.close();

  // Another browser, which has nothing of it: what had got to the server can be kept.
  const second = await openBrowser({});
  await second.page.goto(`${stage.server.url}/lessons/${lessonId}/record`);
  await second.page.getByRole('button', { name: 'Keep what there is' }).click();
  const take = await stage.server.takeWhen(lessonId);
  const seconds = Number(clock!.split(':')[1]);
  expect(seconds).toBeGreaterThanOrEqual(15);
  for (const track of take.tracks) {
    expect(track.durationUs, track.kind).toBeGreaterThan((seconds - 2) * 1e6);
  }
  await expect(second.page.getByText(/ended without the stop button/)).toBeVisible();
  await goToTidy(second.page);
  await second.page.getByRole('button', { name: 'Play', exact: true }).click();
  const place = second.page.getByRole('slider');
  await expect.poll(async () => Number(await place.inputValue())).toBeGreaterThan(500_000);
  await second.close();
});

test('a server that is killed while recording loses nothing', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Server gone');
  await choosePractice(page);
  await startRecording(page);
  await recordFor(page, 4);
  await stage.server.kill();
  await recordFor(page, 4);
  await expect(
    page.getByText(/can’t be reached; .* MB wait here, safe in this browser/),
  ).toBeVisible();
  await stage.server.up();
  await recordFor(page, 5);
  await stopRecording(page);
  const take = await stage.server.takeWhen(lessonId);
  expect(take.cutShort).toBe(false);
  for (const track of take.tracks) expect(track.durationUs, track.kind).toBeGreaterThan(12_500_000);
  await close();
});

test('a film goes on being made after the server was killed, without its finished chunks made again', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Killed while exporting');
  await choosePractice(page);
  await startRecording(page);
  await recordFor(page, 12);
  await stopRecording(page);
  await stage.server.takeWhen(lessonId);
  await page.getByRole('link', { name: 'Hand out' }).click();
  await change(page, 'Size of the picture', /^720p/);
  await page.getByRole('button', { name: 'Export film' }).click();
  const films = () => stage.server.ask<FilmRow[]>('GET', `/api/lessons/${lessonId}/films`);
  await expect
    .poll(async () => (await films())[0]?.done ?? 0, { intervals: [100], timeout: 180_000 })
    .toBeGreaterThan(0.3);
  await stage.server.kill();
  await stage.server.up();
  // What was finished counts as nothing left to do, so it is through much sooner than from the start.
  await page.getByText('Ready.', { exact: true }).waitFor({ timeout: 120_000 });
  const [film] = await films();
  expect(film).toMatchObject({ state: 'done' });
  expect(probe(join(stage.server.home, 'films', `${film!.id}.mp4`)).video).toMatchObject({
    height: 720,
  });
  await close();
});

test('wrong, empty and damaged files each show their sentence and leave the lesson as it was', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Files');
  await bringIn(page, 'notes.mp4', Buffer.from('not a film at all'));
  await expect(page.getByText('This file is not a film that can be opened here.')).toBeVisible();
  await bringIn(page, 'empty.mp4', Buffer.alloc(0));
  await expect(page.getByText('The file is empty.')).toBeVisible();
  expect((await stage.server.lesson(lessonId)).takes).toHaveLength(0);

  const damaged = Buffer.concat([
    Buffer.from('\0\0\0\x18ftypisom', 'latin1'),
    Buffer.alloc(4_000, 7),
  ]);
  await bringIn(page, 'damaged.mp4', damaged);
  await expect(page.getByText(/The film is damaged and nothing in it can be played/)).toBeVisible();
  expect((await stage.server.lesson(lessonId)).decisions.plan.title).toBe('Files');
  await close();
});

test('a take without a single byte says that nothing was recorded', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Nothing there');
  await stage.server.ask('POST', `/api/lessons/${lessonId}/takes`, {
    id: 'take-of-nothing',
    source: 'camera',
    practice: false,
    tracks: [{ id: 'track-of-nothing', kind: 'camera' }],
  });
  await page.reload();
  await page.getByRole('button', { name: 'Keep what there is' }).click();
  await expect(page.getByText(/Nothing had been recorded yet/)).toBeVisible();
  await close();
});

test('devices that are unplugged in the middle are told, the rest goes on, and they can come back', async () => {
  const { page, close } = await openBrowser({
    voice: makeSound(stage.folder, 'sine=frequency=440:sample_rate=48000,volume=4'),
  });
  // Keeps hold of what devices give, also of the recorder's own clones, to pull their plugs.
  await page.addInitScript(() => {
    const given = new Map<MediaStreamTrack, MediaStreamTrack[]>();
    const media = navigator.mediaDevices;
    const open = media.getUserMedia.bind(media);
    media.getUserMedia = async (wanted) => {
      const stream = await open(wanted);
      for (const track of stream.getTracks()) given.set(track, []);
      return stream;
    };
    const { clone } = MediaStreamTrack.prototype;
    MediaStreamTrack.prototype.clone = function cloned() {
      const copy = clone.call(this);
      given.get(this)?.push(copy);
      return copy;
    };
    const unplug = (kind: string) => {
      for (const [track, clones] of given) {
        if (track.kind !== kind || track.readyState === 'ended') continue;
        for (const one of [track, ...clones]) one.stop();
        track.dispatchEvent(new Event('ended'));
      }
    };
    Object.assign(window, { unplug });
  });
  const unplug = (kind: 'video' | 'audio') =>
    page.evaluate(
      (pulled) => (window as unknown as { unplug: (kind: string) => void }).unplug(pulled),
      kind,
    );
  const lessonId = await newLesson(page, stage.server.url, 'Unplugged');
  await choosePractice(page);
  await chooseReal(page, 'Camera', 'Microphone');
  await startRecording(page);
  await recordFor(page, 3);
  await unplug('video');
  const cameraGone = page.getByText('The camera has stopped giving a picture.');
  await expect(cameraGone).toBeVisible();
  await recordFor(page, 1);
  await unplug('audio');
  const microphoneGone = page.getByText('The microphone has stopped giving sound.');
  await expect(microphoneGone).toBeVisible();
  const silentFrom = (await recordedMs(page)) / 1000;
  await recordFor(page, 2);
  const silentUntil = (await recordedMs(page)) / 1000;
  // Plugged in again: what was chosen is opened anew, in the same take.
  await page.getByRole('button', { name: 'Try it again' }).first().click();
  await expect(cameraGone).toBeHidden();
  await expect(microphoneGone).toBeHidden();
  await recordFor(page, 3.5);
  await stopRecording(page);
  const take = await stage.server.takeWhen(lessonId);
  expect(take.tracks.map((track) => track.kind).sort()).toEqual(['camera', 'surface', 'voice']);
  const seconds = take.durationUs / 1e6;
  for (const track of take.tracks) {
    expect(track.durationUs / 1e6, track.kind).toBeGreaterThan(seconds - 0.6);
  }
  // The tone is heard before and after, and not in between.
  const samples = samplesOf(stage.server.trackFile(take, 'voice'));
  const loudest = (from: number, to: number) =>
    samples.subarray(from * 48_000, to * 48_000).reduce((most, one) => Math.max(most, one), 0);
  expect(loudest(1, 3)).toBeGreaterThan(0.1);
  expect(loudest(seconds - 2.5, seconds - 0.5)).toBeGreaterThan(0.1);
  expect(loudest(silentFrom + 0.5, silentUntil - 0.5)).toBeLessThan(0.01);
  await close();
});

test('a recording without a microphone needs a second, deliberate press', async () => {
  const { page, close } = await openBrowser({});
  await newLesson(page, stage.server.url, 'Silent');
  await change(page, 'What to show', /practice screen/);
  await change(page, 'With', 'no microphone');
  await page.getByRole('button', { name: 'Start recording' }).click();
  await expect(page.getByText(/this take will have no voice/)).toBeVisible();
  await expect(page.getByTestId('recorder-sign')).toHaveCount(0);
  await close();
});

test('two tabs: neither edit is lost, and the same thing is not overwritten silently', async () => {
  const { page, context, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Two tabs');
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`${stage.server.url}/lessons/${lessonId}/plan`);
    await tab.getByLabel('Unit or week').waitFor();
  }
  // Different things: both stand.
  await page.getByLabel('Unit or week').fill('Week 4');
  await page.getByLabel('Unit or week').blur();
  await other.getByLabel('Class', { exact: true }).fill('Coastal navigation');
  await other.getByLabel('Class', { exact: true }).blur();
  await expect
    .poll(async () => (await stage.server.lesson(lessonId)).decisions.plan)
    .toMatchObject({ unit: 'Week 4', className: 'Coastal navigation' });

  // The same thing, with one tab cut off from the news of the other.
  await other.route('**/api/lessons/**', (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  await page.getByLabel('What shall it teach?').fill('From the first tab');
  await page.getByLabel('What shall it teach?').blur();
  await expect
    .poll(async () => (await stage.server.lesson(lessonId)).decisions.plan.title)
    .toBe('From the first tab');
  await other.getByLabel('What shall it teach?').fill('From the second tab');
  await other.getByLabel('What shall it teach?').blur();
  await expect(other.getByText('The same thing was changed in another tab.')).toBeVisible();
  expect((await stage.server.lesson(lessonId)).decisions.plan.title).toBe('From the first tab');
  await other.getByRole('button', { name: 'Use mine' }).click();
  await expect
    .poll(async () => (await stage.server.lesson(lessonId)).decisions.plan.title)
    .toBe('From the second tab');
  await close();
});
