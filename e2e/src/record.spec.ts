import { expect, test } from '@playwright/test';
import { join } from 'node:path';
import {
  choosePractice,
  choosePracticeVoice,
  clapOnce,
  cutStretch,
  goToTidy,
  openBrowser,
  newLesson,
  planLesson,
  recordFor,
  saveFilm,
  startRecording,
  stopRecording,
  WIDE,
} from './browser';
import {
  clicksAt,
  colourAt,
  flashesAt,
  makeCamera,
  makeVoice,
  probe,
  seenAfterHeard,
  tonesAt,
} from './media';
import { setStage } from './stage';

const stage = setStage();

/** Near to red, as the fake camera is. */
const isRed = ([red, green, blue]: [number, number, number]) =>
  red > 150 && green < 90 && blue < 110;

test('records screen, camera and voice, trims, moves the inset, cuts and exports', async () => {
  const { page, close, complaints } = await openBrowser({
    viewport: WIDE,
    voice: makeVoice(stage.folder),
    camera: makeCamera(stage.folder),
  });
  // Each of these is a red line in the console.
  const refused: string[] = [];
  page.on('response', (answer) => {
    if (answer.status() >= 400)
      refused.push(`${answer.status()} ${answer.request().method()} ${answer.url()}`);
  });
  const lessonId = await planLesson(page, stage.server.url, 'Aiming off: why & how?');
  await page.getByRole('button', { name: 'Choose what to show', exact: true }).click();
  await expect(page.getByTestId('heard-words')).toHaveText('I hear you.', { timeout: 60_000 });
  await startRecording(page, '3 s');
  await recordFor(page, 14);
  await stopRecording(page);
  await goToTidy(page);

  const take = await stage.server.takeWhen(lessonId);
  expect(refused).toEqual([]);
  expect(take.tracks.map((track) => track.kind).sort()).toEqual(['camera', 'surface', 'voice']);
  expect(take.durationUs).toBeGreaterThan(13_000_000);

  // Trim: begin at 1 s, by going there and saying so.
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  await slider.focus();
  await slider.press('ArrowRight');
  await page.getByRole('button', { name: 'Begin at the place shown' }).click();
  await expect(page.getByText(/left out at 0:00\.0 · 1 s/)).toBeVisible();

  // The inset to the top left, for the whole take.
  await page
    .getByRole('button', { name: /^Phrase \d+,/ })
    .first()
    .click();
  await page.getByRole('radio', { name: 'the whole take' }).click();
  await page.getByRole('radio', { name: 'top left' }).click();
  await page.getByRole('button', { name: /^Phrase \d+,.*Close/ }).click();

  // Cut 3 s out of the middle.
  await page
    .getByRole('button', { name: /^Phrase \d+,/ })
    .first()
    .click();
  // Times of the film, which begins a second into the take.
  for (const [label, time] of [
    [/^to,/, '0:08.0'],
    [/^From,/, '0:05.0'],
  ] as const) {
    const field = page.getByRole('spinbutton', { name: label });
    await field.fill(time);
    await field.press('Enter');
  }
  await page.getByRole('button', { name: 'Cut these 3.0 s' }).click();
  await expect(page.getByText(/left out at 0:05\.0 · 3 s/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Bring back 3 s/ })).toBeFocused();

  const file = join(stage.folder, 'film.mp4');
  expect(await saveFilm(page, file)).toBe('Aiming off why & how.mp4');
  const film = probe(file);
  expect(film.video).toMatchObject({
    codec_name: 'h264',
    profile: 'High',
    pix_fmt: 'yuv420p',
    width: 1280,
    height: 720,
  });
  expect(film.audio).toMatchObject({ codec_name: 'aac' });
  const wanted = take.durationUs / 1e6 - 1 - 3;
  expect(Math.abs(Number(film.video!['nb_frames']) / 30 - wanted)).toBeLessThanOrEqual(1.01 / 30);

  // The inset is at the top left and nowhere else.
  const spot = (x: number, y: number) => colourAt(file, 3, { x, y, width: 0.04, height: 0.06 });
  expect(isRed(spot(0.06, 0.1))).toBe(true);
  expect(isRed(spot(0.16, 0.22))).toBe(true);
  expect(isRed(spot(0.85, 0.8))).toBe(false);
  expect(isRed(spot(0.5, 0.5))).toBe(false);

  // The sound: in the take a tone begins every two seconds; the film has lost those that were cut, and
  // those after the cut have moved up by exactly what was cut.
  const source = stage.server.trackFile(take, 'voice');
  const recorded = tonesAt(source, 1_000);
  const heard = tonesAt(file, 1_000);
  const expected = recorded.flatMap((at) =>
    at < 1.1 || (at > 5.9 && at < 9) ? [] : [at < 6 ? at - 1 : at - 4],
  );
  expect(recorded.length).toBeGreaterThanOrEqual(6);
  for (const at of expected) {
    const off = Math.min(...heard.map((other) => Math.abs(other - at)));
    expect(off, `${at} of ${heard.join(' ')}; recorded: ${recorded.join(' ')}`).toBeLessThan(0.04);
  }
  expect(heard.length).toBeLessThan(recorded.length);
  expect(complaints).toEqual([]);
  await close();
});

test(
  'keeps click and flash together, before and after a cut, with the practice devices',
  { tag: '@alone' },
  async () => {
    const { page, close, complaints } = await openBrowser({ fullRate: true });
    const lessonId = await newLesson(page, stage.server.url, 'The clapper');
    await choosePractice(page);
    await startRecording(page);
    // Presses are moments of their own: whatever happened between, each claps once.
    for (const pause of [2_500, 1_900, 7_600, 1_700]) {
      await recordFor(page, pause / 1000);
      await clapOnce(page);
    }
    await recordFor(page, 1.5);
    await stopRecording(page);
    await goToTidy(page);
    const take = await stage.server.takeWhen(lessonId);
    const claps = flashesAt(stage.server.trackFile(take, 'surface'));
    expect(claps).toHaveLength(4);
    const recorded = seenAfterHeard(claps, clicksAt(stage.server.trackFile(take, 'voice')));
    expect(Math.min(...recorded.map(Math.abs)), `recorded ${recorded.join(' ')}`).toBeLessThan(
      0.03,
    );
    expect(Math.max(...recorded), `recorded ${recorded.join(' ')}`).toBeLessThan(0.3);

    // From just after the second clap to two seconds before the third.
    const from = Math.ceil((claps[1]! + 0.6) * 10) / 10;
    await cutStretch(page, from, from + 3);
    const file = join(stage.folder, 'clapper.mp4');
    await saveFilm(page, file);

    const surface = flashesAt(file, { x: 0.05, y: 0.05, width: 0.5, height: 0.5 });
    const inset = flashesAt(file, { x: 0.84, y: 0.76, width: 0.08, height: 0.12 });
    const clicks = clicksAt(file);
    expect(surface).toHaveLength(4);
    expect(inset).toHaveLength(4);
    // As far from one another as they were recorded, but for the film's own raster of frames and of sound.
    for (const [index, apart] of seenAfterHeard(surface, clicks).entries()) {
      const detail = `clicks ${clicks.join(' ')}, flashes ${surface.join(' ')}, recorded ${recorded.join(' ')}`;
      expect(Math.abs(apart - recorded[index]!), detail).toBeLessThan(1 / 30 + 0.021);
      expect(Math.abs(inset[index]! - surface[index]!), detail).toBeLessThan(0.07);
    }
    // The cut is gone from the picture: the later claps have moved up by it.
    expect(Math.abs(claps[2]! - surface[2]! - 3)).toBeLessThan(0.05);
    expect(complaints).toEqual([]);
    await close();
  },
);

test('pauses, goes on, and records sound alone', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'Before you plot');
  await choosePracticeVoice(page);
  const began = Date.now();
  await startRecording(page);
  await recordFor(page, 3);
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByTestId('recorder-sign')).toHaveText(/Paused/);
  await expect(page.getByTestId('chalk-broken')).toBeVisible();
  const clock = await page.getByTestId('recorder-clock').textContent();
  await page.waitForTimeout(3_000);
  expect(await page.getByTestId('recorder-clock').textContent()).toBe(clock);
  await page.getByRole('button', { name: 'Go on recording' }).click();
  await recordFor(page, 2);
  await stopRecording(page);
  const wholeMs = Date.now() - began;
  const { source, durationUs } = await stage.server.takeWhen(lessonId);
  expect(source).toBe('sound');
  expect(durationUs).toBeGreaterThan(4_500_000);
  expect(durationUs / 1_000).toBeLessThan(wholeMs - 3_000);
  await close();
});

test('loses no word while the recorder is held up for over a second', async () => {
  const { page, close } = await openBrowser({});
  const lessonId = await newLesson(page, stage.server.url, 'A slow computer');
  await choosePracticeVoice(page);
  await startRecording(page);
  const pressed: number[] = [];
  const clap = async () => pressed.push(await clapOnce(page));
  await recordFor(page, 1.5);
  await clap();
  await recordFor(page, 1);
  const worker = page.workers().find((one) => one.url().includes('recorder'))!;
  const heldUp = worker.evaluate(() => {
    const until = performance.now() + 1_500;
    while (performance.now() < until);
  });
  await page.waitForTimeout(600);
  await clap();
  await heldUp;
  await recordFor(page, 1.5);
  await clap();
  await recordFor(page, 1);
  await stopRecording(page);

  const take = await stage.server.takeWhen(lessonId);
  const clicks = clicksAt(stage.server.trackFile(take, 'voice'));
  expect(clicks).toHaveLength(3);
  // A second and a half lost would bring the clicks closer together by as much.
  clicks.forEach((at, index) => {
    expect(Math.abs(at - clicks[0]! - (pressed[index]! - pressed[0]!))).toBeLessThan(0.5);
  });
  await close();
});
