import { expect, test, type Page } from '@playwright/test';
import { filmOf, filmTimeFrom, recordedAt } from '@under-chalk/core/film/film';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import { frameToUs } from '@under-chalk/core/time/frames';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { change, openBrowser, PHONE, saveFilm, WIDE, within } from './browser';
import { overhang, tooSmall, violations } from './checks';
import { setDemo, TABLE } from './demo';
import { fingersOn } from './hand';
import { colourAt, ffmpeg, loudnessOf, probe, samplesOf, ssimOf, tonesStrength } from './media';

/** Tidy by hand: the ends of what is chosen to the frame, how fast it goes by, and where in the film it stands. */

const demo = setDemo();

const phrase = (page: Page, number: number) =>
  page.getByRole('button', { name: new RegExp(`^Phrase ${number}, `) }).first();
const openTidy = (page: Page) => demo.openAt(page, `/lessons/${TABLE}/tidy`, 'Take 1');
const decisions = async () => (await demo.server.lesson(TABLE)).decisions;
const asText = async () => JSON.stringify(await decisions());
const undoAll = async (page: Page, first: string) => {
  const undo = page.getByRole('button', { name: /^Undo/ });
  while (await undo.isEnabled()) await undo.click();
  await expect.poll(asText).toBe(first);
};
const bar = (page: Page) => page.getByRole('group', { name: 'What is chosen' });
const goBy = async (page: Page, speed: string) => {
  await page.getByRole('button', { name: /^Playback speed: / }).click();
  await page.getByRole('radio', { name: speed, exact: true }).click();
};

test('phrases go by faster, one is moved, and the film is what the preview shows, place by place', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-moves-'));
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await openTidy(page);
  const first = await asText();
  const whole = filmOf(await demo.server.lesson(TABLE)).durationUs;

  await phrase(page, 2).click();
  await goBy(page, '1.5 times as fast');
  await expect(phrase(page, 2)).toHaveAccessibleName(/, 1\.5 times as fast/);
  expect(await violations(page)).toEqual([]);
  await phrase(page, 5).click();
  await goBy(page, '4 times as fast');
  await expect(page.getByText(/a ticking clock in the picture says why/)).toBeVisible();
  // Shown at once, and on the server a moment later.
  await expect.poll(async () => (await decisions()).speeds.length).toBe(2);
  const { speeds } = await decisions();
  const saved = speeds.reduce(
    (sum, { startUs, endUs, speed }) => sum + (endUs - startUs) * (1 - 100 / speed),
    0,
  );
  const faster = filmOf(await demo.server.lesson(TABLE)).durationUs;
  expect(Math.abs(whole - saved - faster)).toBeLessThan(frameToUs(3));

  // The third goes to the end: taken in hand, and put there.
  await phrase(page, 3).click();
  await bar(page).getByRole('button', { name: 'Move it elsewhere in the film' }).click();
  const hand = page.getByRole('group', { name: 'In hand' });
  await expect(hand.getByText(/ in hand\. /)).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await hand.getByRole('button', { name: 'At the end' }).click();
  await expect.poll(async () => (await decisions()).placements.length).toBe(3);
  await expect(page.getByRole('heading', { name: /^Take 1, from / })).toHaveCount(3);
  // It is the same film in another order: as long, and the last of it is what was moved.
  const lesson = await demo.server.lesson(TABLE);
  const film = filmOf(lesson);
  expect(film.durationUs).toBe(faster);
  expect(film.spans.at(-1)!.endFrame).toBeLessThan(film.spans.at(-2)!.endFrame);
  await expect(page.getByRole('button', { name: /^Undo: moved a take/ })).toBeVisible();
  // Of the fourth nothing is heard; its picture goes on.
  await phrase(page, 4).click();
  await page.getByRole('button', { name: 'Mute: its picture goes on' }).click();
  await expect(page.getByText('Nothing is heard here.')).toBeVisible();
  await expect(phrase(page, 4)).toHaveAccessibleName(/, silent/);
  const [muted] = (await decisions()).muted;

  // Where it was cut, one picture goes over into the other.
  await change(page, 'When the layout changes, it changes', 'softly');
  await expect.poll(async () => (await decisions()).crossFadeUs).toBe(300_000);
  const decided = await asText();

  const out = join(folder, 'moved.mp4');
  await saveFilm(page, out);
  expect(probe(out).seconds).toBeCloseTo(film.durationUs / 1e6, 1);
  // The clock lies on its plate in the corner, where it goes by four times as fast, and nowhere else.
  const fast = film.spans.find(({ rate }) => rate.recorded === 4)!;
  const plate = { x: 0.12, y: 0.053, width: 0.02, height: 0.012 };
  const middle = frameToUs(fast.filmFrame + Math.floor(fast.frames / 2)) / 1e6;
  expect(Math.max(...colourAt(out, middle, plate))).toBeLessThan(60);
  expect(Math.max(...colourAt(out, 1, plate))).toBeGreaterThan(70);

  // Twenty places: what the preview shows is what the film has.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await expect(page.getByRole('heading', { name: /^Take 1, from / })).toHaveCount(3);
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  const canvas = page.locator('canvas');
  const joined = film.spans.filter(
    ({ startFrame }, index) => index > 0 && startFrame !== film.spans[index - 1]!.endFrame,
  );
  expect(joined.length).toBeGreaterThan(1);
  const places = [
    ...Array.from({ length: 20 }, (_, place) => Math.floor(((place + 0.37) / 20) * film.frames)),
    // In the middle of going over.
    ...joined.map(({ filmFrame }) => filmFrame + 4),
  ];
  for (const [place, frame] of places.entries()) {
    const us = frameToUs(frame) + 2_000;
    await slider.fill(String(us));
    await page.waitForTimeout(350);
    const url = await canvas.evaluate((element: HTMLCanvasElement) => element.toDataURL());
    const [shown, made] = [join(folder, 'shown.png'), join(folder, 'made.png')];
    await writeFile(shown, Buffer.from(url.split(',')[1]!, 'base64'));
    const { width, height } = await canvas.evaluate(
      ({ width: w, height: h }: HTMLCanvasElement) => ({
        width: w,
        height: h,
      }),
    );
    // The first picture that doesn’t begin before it.
    const at = (Math.max(0, frame - 0.4) / 30).toFixed(4);
    ffmpeg(
      ...['-ss', at, '-i', out, '-frames:v', '1'],
      ...['-vf', `scale=${width}:${height}:flags=area`, made],
    );
    const { takeUs } = recordedAt(film, us)!;
    expect([place, takeUs, ssimOf(shown, made) > 0.97]).toEqual([place, takeUs, true]);
  }

  // As loud as films usually are, and told beforehand; silent where it was muted.
  const loudest = (fromUs: number, toUs: number) => {
    const samples = samplesOf(out);
    const at = (us: number) => Math.round((us * 48_000) / 1e6);
    return samples
      .subarray(at(fromUs), at(toUs))
      .reduce((most, one) => Math.max(most, Math.abs(one)), 0);
  };
  const quiet = [muted!.startUs + 50_000, muted!.endUs - 50_000].map((takeUs) =>
    filmTimeFrom(film, { takeId: muted!.takeId, takeUs }),
  ) as [number, number];
  expect(loudest(...quiet)).toBeLessThan(0.003);
  expect(loudest(0, quiet[0])).toBeGreaterThan(0.2);
  expect(Math.abs(loudnessOf(out) + 16)).toBeLessThan(0.7);
  await page.getByRole('link', { name: 'Last look' }).click();
  await expect(page.getByText(/^Good\. Take 1 was .+ to −16\.0 LUFS\.$/)).toBeVisible();
  await page.getByRole('link', { name: 'Tidy' }).click();
  await expect(page.getByRole('heading', { name: /^Take 1, from / })).toHaveCount(3);

  // All of it undone, step by step, and redone: the same to the byte at either end.
  await undoAll(page, first);
  const redo = page.getByRole('button', { name: /^Redo/ });
  while (await redo.isEnabled()) await redo.click();
  await expect.poll(asText).toBe(decided);
  await undoAll(page, first);
  expect(complaints).toEqual([]);
  await close();
  await rm(folder, { recursive: true, force: true });
});

test('the same by keys alone; a take is divided, and a moment is where it was', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await openTidy(page);
  const first = await asText();
  await phrase(page, 4).focus();
  await page.keyboard.press('Enter');
  // To the frame by Shift and the arrows; the picture goes along.
  const from = page.getByRole('spinbutton', { name: /^From,/ });
  await from.focus();
  const before = Number(await from.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowUp');
  await expect(from).toBeFocused();
  await expect
    .poll(async () => Number(await from.getAttribute('aria-valuenow')))
    .toBe(before + 100_000 + frameToUs(1));
  // As far as the take goes, and back to the phrase.
  const more = page.getByRole('button', { name: 'More to do with what is chosen' });
  await more.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^\d+ phrases chosen, /)).toBeVisible();
  await page.getByRole('button', { name: 'Choose only this phrase' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^One phrase chosen, /)).toBeVisible();
  const speed = page.getByRole('button', { name: /^Playback speed: / });
  await speed.focus();
  await page.keyboard.press('Enter');
  const asRecorded = page.getByRole('radio', { name: 'as it was recorded' });
  await asRecorded.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('radio', { name: '0.75 times as fast' })).toBeFocused();
  await expect.poll(async () => (await decisions()).speeds[0]?.speed).toBe(75);
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await decisions()).speeds).toEqual([]);
  expect(await violations(page)).toEqual([]);

  // Moved before the second, by keys.
  await bar(page).getByRole('button', { name: 'Move it elsewhere in the film' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/ in hand\. /)).toBeVisible();
  await phrase(page, 2).focus();
  await page.keyboard.press('Enter');
  const put = page.getByRole('button', { name: /^Put it before the phrase at / });
  await expect(put).toBeEnabled();
  await put.focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await decisions()).placements.length).toBe(4);
  // What was moved has the focus.
  await expect
    .poll(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? ''))
    .toMatch(/^Phrase 1, /);
  await undoAll(page, first);

  // Divided where the picture stands: the film stays as it is.
  const film = filmOf(await demo.server.lesson(TABLE));
  await page.getByRole('slider', { name: 'Position in the film' }).fill('9000000');
  await page.getByRole('button', { name: 'More to do with Take 1' }).click();
  await page.getByRole('menuitem', { name: 'Divide here' }).click();
  await expect(page.locator(':focus')).toHaveText(/^Take 1, from 0:0[89]$/);
  const halves = filmOf(await demo.server.lesson(TABLE));
  expect([halves.frames, halves.spans.length]).toEqual([film.frames, film.spans.length + 1]);
  const { id: takeId } = takeOf(film.lesson, film.spans[0]!.take.id)!;
  const place = { takeId, takeUs: 21_000_000 };
  expect(filmTimeFrom(halves, place)).toBe(filmTimeFrom(film, place));
  await undoAll(page, first);
  expect(complaints).toEqual([]);
  await close();
});

test('the same on a phone: an end is dragged to where it is quiet, and the join is heard', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await openTidy(page);
  const first = await asText();
  await phrase(page, 3).click();
  const strip = page.getByTestId('end-strip').first();
  await strip.scrollIntoViewIfNeeded();
  await page.waitForTimeout(300);
  const from = page.getByRole('spinbutton', { name: /^From,/ });
  const value = async () => Number(await from.getAttribute('aria-valuenow'));
  const before = await value();
  const box = (await strip.boundingBox())!;
  const touch = await fingersOn(page);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await touch('touchStart', [x, y]);
  for (let step = 1; step <= 10; step++) {
    await touch('touchMove', [x + step * 9, y]);
    await page.waitForTimeout(20);
  }
  await touch('touchEnd');
  // 90 of so many px, two seconds wide; to a frame, and at most 80 ms off it to where it is quiet.
  const moved = (90 / box.width) * 2_000_000;
  await expect.poll(async () => Math.abs((await value()) - before - moved) < 120_000).toBe(true);
  expect(
    Math.abs(((await value()) * 30) / 1e6 - Math.round(((await value()) * 30) / 1e6)),
  ).toBeLessThan(0.001);
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);

  // The join: played over, and then all is as it was.
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  const stood = await slider.inputValue();
  const most = await slider.getAttribute('max');
  await bar(page)
    .getByRole('button', { name: /^Hear it cut/ })
    .click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  expect(Number(await slider.getAttribute('max'))).toBeLessThan(Number(most));
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({
    timeout: 8_000,
  });
  await expect(slider).toHaveAttribute('max', most!);
  expect(await slider.inputValue()).toBe(stood);
  expect(await asText()).toBe(first);

  // At the thumb: cut, and it can be brought back where the focus is.
  await bar(page)
    .getByRole('button', { name: /^Cut what is chosen/ })
    .click();
  await expect(page.getByRole('button', { name: /^Bring back/ })).toBeFocused();
  await expect(bar(page)).toBeHidden();
  await undoAll(page, first);
  expect(complaints).toEqual([]);
  await close();
});

test('the face is come nearer to, as in a mirror, with a shadow round it: by keys, on a phone', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await openTidy(page);
  const first = await asText();
  await page.getByRole('button', { name: 'More to do with Take 1' }).click();
  await page.getByRole('menuitem', { name: 'The camera, differently' }).click();
  await expect(page.getByRole('button', { name: 'Show it so' })).toBeFocused();
  for (const [edge, key] of [
    ['right', 'Shift+ArrowLeft'],
    ['bottom', 'Shift+ArrowUp'],
  ] as const) {
    await page.getByRole('slider', { name: `${edge} edge of the part that is shown` }).focus();
    for (let times = 0; times < 10; times++) await page.keyboard.press(key);
  }
  const seen = page.getByRole('radiogroup', { name: 'The camera is shown' });
  await seen.getByRole('radio', { name: 'as others see it' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(seen.getByRole('radio', { name: 'as in a mirror' })).toBeChecked();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page.getByRole('button', { name: 'Show it so' }).focus();
  await page.keyboard.press('Enter');
  const look = async () => (await decisions()).cameraLooks[0]?.look;
  await expect.poll(look).toEqual({
    ...{ x: expect.closeTo(0.25), y: expect.closeTo(0.25), near: expect.closeTo(2) },
    mirrored: true,
  });
  await phrase(page, 3).click();
  const round = page.getByRole('radiogroup', { name: 'Round the inset there is' });
  await round.getByRole('radio', { name: 'a shadow' }).click();
  const edge = async () => (await decisions()).layouts.at(-1)?.layout.inset.edge;
  await expect.poll(edge).toBe('shadow');
  expect(await violations(page)).toEqual([]);
  // All of it again.
  await page.getByRole('button', { name: 'More to do with Take 1' }).click();
  await page.getByRole('menuitem', { name: 'The camera, differently' }).click();
  await page.getByRole('button', { name: 'Show all of it' }).click();
  await expect.poll(look).toBeUndefined();
  // Its sound stays as it was recorded.
  const unlevelled = async () => (await decisions()).unlevelled.length;
  await page.getByRole('button', { name: 'More to do with Take 1' }).click();
  await page.getByRole('menuitem', { name: 'As loud as it was recorded' }).click();
  await expect.poll(unlevelled).toBe(1);
  await undoAll(page, first);
  expect(complaints).toEqual([]);
  await close();
});

test('a film that was brought in is seen while the voice goes on, and a few words lie over all: on a phone', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-cutaway-'));
  const green = join(folder, 'green.mp4');
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=c=0x00a040:size=640x360:rate=30:duration=6'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', green],
  );
  const take = { id: 'take-green-film', source: 'film', practice: false };
  const tracks = [{ id: 'track-green-film', kind: 'surface' }];
  await demo.server.ask('POST', `/api/lessons/${TABLE}/takes`, { ...take, tracks });
  await demo.server.send(tracks[0]!.id, await readFile(green));
  await demo.server.ask('POST', `/api/takes/${take.id}/stop`, {});
  const state = async () =>
    (await demo.server.lesson(TABLE)).takes.find(({ id }) => id === take.id)?.state;
  await expect.poll(state, { timeout: 120_000 }).toBe('ready');

  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await openTidy(page);
  await phrase(page, 3).click();
  await page.getByRole('button', { name: 'Show something else' }).click();
  await page.getByRole('radiogroup', { name: 'Or the picture of' }).getByRole('radio').click();
  await expect(page.getByText('Shows Take 2.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  expect([await tooSmall(page), await overhang(page)]).toEqual([[], 0]);
  const from = page.getByRole('slider', { name: 'Where Take 2 begins to be shown' });
  await from.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  const shown = async () => (await decisions()).cutaways[0]?.of;
  await expect.poll(shown).toMatchObject({ takeId: take.id, fromUs: 1_000_000 });
  await page.getByRole('button', { name: 'Leave Take 2 out of the film otherwise' }).click();
  await expect.poll(async () => (await decisions()).excluded).toEqual([take.id]);

  // Green where it is, standing and playing.
  const middle = () =>
    page.locator('canvas').evaluate((element: HTMLCanvasElement) => {
      const { width, height } = element;
      const at = element.getContext('2d')!.getImageData(width / 2, height / 2, 1, 1).data;
      return [at[0]!, at[1]!, at[2]!];
    });
  const isGreen = async () => {
    const [red, greenish] = await middle();
    return greenish! > 120 && red! < 60;
  };
  await expect.poll(isGreen).toBe(true);
  await page.getByRole('button', { name: 'Play from here' }).click();
  await page.waitForTimeout(1_500);
  expect(await isGreen()).toBe(true);
  await page.getByRole('button', { name: 'Pause' }).click();
  await phrase(page, 1).click();
  await expect.poll(isGreen).toBe(false);

  await change(page, 'Over all of the film there is', 'a few words');
  await within(page, 'Over all of the film there is', async () => {
    await page.getByLabel('The words').fill('Lantern Quay, only for us');
    await page.getByLabel('The words').press('Enter');
    expect(await violations(page)).toEqual([]);
  });
  await expect
    .poll(async () => (await decisions()).watermark?.of)
    .toEqual({ text: 'Lantern Quay, only for us' });
  const undo = page.getByRole('button', { name: /^Undo/ });
  while (await undo.isEnabled()) await undo.click();
  await expect.poll(shown).toBeUndefined();
  expect(complaints).toEqual([]);
  await close();
  await rm(folder, { recursive: true, force: true });
});

test('what the computer plays goes down under a voice, as far as is wanted: by keys', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-under-'));
  const id = 'lesson-under-voice';
  const take = { id: 'take-under-voice', source: 'screen', practice: false };
  const sources = {
    surface: ['color=c=0x204060:size=640x360:rate=30:duration=6', '-c:v', 'libx264'],
    voice: ['sine=f=150:d=6,volume=if(between(t\\,2\\,4)\\,1\\,0):eval=frame', '-c:a', 'aac'],
    'computer-sound': ['sine=f=2500:d=6', '-c:a', 'aac'],
  } as const;
  const tracks = Object.keys(sources).map((kind) => ({ id: `under-voice-${kind}`, kind }));
  await demo.server.ask('POST', '/api/lessons', { id, title: 'A film, spoken over' });
  await demo.server.ask('POST', `/api/lessons/${id}/takes`, { ...take, tracks });
  for (const [kind, [source, ...codec]] of Object.entries(sources)) {
    const path = join(folder, `${kind}.mp4`);
    ffmpeg('-f', 'lavfi', '-i', source, ...codec, '-pix_fmt', 'yuv420p', path);
    await demo.server.send(`under-voice-${kind}`, await readFile(path));
  }
  await demo.server.ask('POST', `/api/takes/${take.id}/stop`, {});
  const ready = async () => (await demo.server.lesson(id)).takes[0]?.state;
  await expect.poll(ready, { timeout: 120_000 }).toBe('ready');

  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, `/lessons/${id}/tidy`, 'Take 1');
  await page.getByRole('button', { name: 'More to do with Take 1' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Computer sound under voice' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Done with its sound' })).toBeFocused();
  expect(await violations(page)).toEqual([]);
  expect([await tooSmall(page), await overhang(page)]).toEqual([[], 0]);
  const how = page.getByRole('radiogroup', {
    name: 'While you speak, the computer’s sound goes down',
  });
  await how.getByRole('radio', { name: 'clearly' }).focus();
  await page.keyboard.press('ArrowRight');
  const db = async () => (await demo.server.lesson(id)).decisions.duckingDb;
  await expect.poll(db).toBe(20);
  await page.getByRole('button', { name: 'Done with its sound' }).focus();
  await page.keyboard.press('Enter');
  await expect(how).toBeHidden();

  const out = join(folder, 'under.mp4');
  await saveFilm(page, out);
  const played = (seconds: number) =>
    Math.max(...tonesStrength(out, 2_500).slice(seconds * 100 - 10, seconds * 100 + 10));
  const away = 20 * Math.log10(played(3) / played(1));
  expect(away).toBeLessThan(-17);
  expect(away).toBeGreaterThan(-23);
  expect(20 * Math.log10(played(5.5) / played(1))).toBeGreaterThan(-1);
  expect(complaints).toEqual([]);
  await close();
  await rm(folder, { recursive: true, force: true });
});
