import { expect, test, type Page } from '@playwright/test';
import { inkTrackOf, pageAt, type InkTrack } from '@under-chalk/core/ink/ink-track';
import { readInk } from '@under-chalk/core/ink/record';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  change,
  choosePracticeVoice,
  goToTidy,
  openBrowser,
  PHONE,
  recordFor,
  saveFilm,
  startRecording,
  stopRecording,
  WIDE,
} from './browser';
import { overhang, tooSmall, violations } from './checks';
import { handOver } from './hand';
import { setStage } from './stage';

/** The board: writing is kept as writing. */

const stage = setStage();
const TABLET = { width: 820, height: 1180 };

/** Opens Record with the board and the practice voice chosen. */
const openBoard = async (page: Page, id: string) => {
  await stage.server.ask('POST', '/api/lessons', { id, title: 'The rule of twelfths' });
  await page.goto(`${stage.server.url}/lessons/${id}/record`);
  await choosePracticeVoice(page);
  await change(page, 'What to show', /^The board/);
  await change(page, 'With', 'no camera');
  await expect(page.getByTestId('board')).toBeVisible();
};

const boardOf = (page: Page) => page.getByRole('application');

/** What was written in the last take of a lesson. */
const writtenIn = async (lessonId: string): Promise<{ take: Take; ink: InkTrack }> => {
  const take = await stage.server.takeWhen(lessonId);
  const path = join(stage.server.home, 'media', `${trackOf(take, 'ink')!.id}.ink`);
  const { records, unread } = readInk(readFileSync(path, 'utf8'));
  expect(unread).toBe(0);
  return { take, ink: inkTrackOf(records) };
};
const LAST = Number.MAX_SAFE_INTEGER;

for (const [name, viewport, kind] of [
  ['a phone, by finger', PHONE, 'touch'],
  ['a tablet, by pen', TABLET, 'pen'],
  ['a wide screen, by mouse', WIDE, 'mouse'],
] as const) {
  test(`writes over two pages and back: ${name}`, async () => {
    const { page, close, complaints } = await openBrowser({ viewport });
    const id = `lesson-board-${kind}`;
    await openBoard(page, id);
    expect(await violations(page)).toEqual([]);
    await startRecording(page);
    const hand = await handOver(page, kind);
    await hand.write([
      [0.1, 0.2],
      [0.3, 0.6],
      [0.5, 0.2],
    ]);
    await page.getByRole('radio', { name: 'Box' }).click();
    await page.getByRole('radio', { name: 'red' }).click();
    await hand.write([
      [0.55, 0.3],
      [0.9, 0.7],
    ]);
    // A slip, taken back; the box is wiped, and that is taken back too.
    await page.getByRole('radio', { name: 'Pen' }).click();
    await hand.write([
      [0.1, 0.9],
      [0.2, 0.9],
    ]);
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await page.getByRole('radio', { name: 'Wipe', exact: true }).click();
    await hand.write([
      [0.7, 0.25],
      [0.7, 0.35],
    ]);
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect(boardOf(page)).toHaveAccessibleName('Board, page 1 of 1, 2 strokes');
    await page.getByRole('button', { name: /^More to do while recording/ }).click();
    await page.getByRole('radio', { name: /^until the page is turned/ }).click();
    await page.getByRole('button', { name: 'Done', exact: true }).click();
    await page.getByRole('button', { name: 'A new page' }).click();
    await page.getByRole('radio', { name: 'Arrow' }).click();
    await hand.write([
      [0.2, 0.2],
      [0.6, 0.6],
    ]);
    await expect(boardOf(page)).toHaveAccessibleName('Board, page 2 of 2, one stroke');
    await page.getByRole('button', { name: 'Turn back a page' }).click();
    expect(await violations(page)).toEqual([]);
    expect(await overhang(page)).toBe(0);
    expect(await tooSmall(page)).toEqual([]);
    await stopRecording(page);

    const { take, ink } = await writtenIn(id);
    expect([take.source, take.problem, ink.pages.length]).toEqual(['board', null, 2]);
    expect(ink.strokes.map(({ pen }) => pen.stays)).toEqual(['wiped', 'wiped', 'wiped', 'turned']);
    const { index, strokes } = pageAt(ink, LAST);
    expect(index).toBe(0);
    expect(strokes.map(({ stroke }) => [stroke.pen.tool, stroke.pen.colour])).toEqual([
      ['pen', 'main'],
      ['box', 'red'],
    ]);
    const [drawn, box] = strokes;
    expect(drawn!.points.length).toBeGreaterThan(12);
    expect(drawn!.points[0]!.x).toBeCloseTo(0.1, 1);
    expect(drawn!.points.at(-1)!.x).toBeCloseTo(0.5, 1);
    // In widths of the page: a tenth of its height is less.
    expect(drawn!.points.at(-1)!.y).toBeCloseTo((0.2 * 9) / 16, 1);
    expect(box!.points).toHaveLength(2);
    const pressures = drawn!.points.map(({ pressure }) => pressure);
    if (kind === 'pen') {
      expect(pressures[0]).toBeLessThan(0.35);
      expect(Math.max(...pressures)).toBeGreaterThan(0.65);
    } else expect(new Set(pressures)).toEqual(new Set([0.5]));
    expect(complaints).toEqual([]);
    await close();
  });
}

test('a palm that lies down beside the pen writes nothing', async () => {
  const { page, close } = await openBrowser({ viewport: TABLET });
  await openBoard(page, 'lesson-palm');
  const pen = await handOver(page, 'pen');
  const palm = await handOver(page, 'touch');
  await palm.write([
    [0.1, 0.1],
    [0.3, 0.1],
  ]);
  await expect(boardOf(page)).toHaveAccessibleName(/one stroke$/);
  await pen.write([
    [0.1, 0.5],
    [0.3, 0.5],
  ]);
  await palm.write([
    [0.6, 0.8],
    [0.7, 0.8],
  ]);
  await expect(boardOf(page)).toHaveAccessibleName(/2 strokes$/);
  // The pen has been put down for a while: the finger writes again.
  await page.waitForTimeout(3_200);
  await palm.write([
    [0.6, 0.8],
    [0.7, 0.8],
  ]);
  await expect(boardOf(page)).toHaveAccessibleName(/3 strokes$/);
  await close();
});

test('what is drawn by hand is straightened by holding still at its end', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  const id = 'lesson-straight';
  await openBoard(page, id);
  await startRecording(page);
  const hand = await handOver(page, 'mouse');
  const round = Array.from({ length: 25 }, (_, n): [number, number] => {
    const turn = (n / 24) * 2 * Math.PI;
    return [0.3 + 0.15 * Math.cos(turn), 0.5 + 0.25 * Math.sin(turn)];
  });
  await hand.write(round, 3, 1_000);
  await hand.write(
    [
      [0.6, 0.2],
      [0.9, 0.22],
    ],
    20,
    1_000,
  );
  // Not held: it stays as it was drawn.
  await hand.write(
    round.map(([x, y]) => [x + 0.3, y] as const),
    3,
  );
  await stopRecording(page);
  const { ink } = await writtenIn(id);
  const shown = pageAt(ink, LAST).strokes;
  expect(shown.map(({ stroke }) => stroke.pen.tool)).toEqual(['ellipse', 'line', 'pen']);
  expect(shown[1]!.points.map(({ y }) => y)).toEqual([
    shown[1]!.points[0]!.y,
    shown[1]!.points[0]!.y,
  ]);
  await close();
});

/** Makes the film of a lesson as it is now, without the page. @returns its file */
const filmMade = async (lessonId: string): Promise<string> => {
  const films = `/api/lessons/${lessonId}/films`;
  const { id } = await stage.server.ask<{ id: string }>('POST', films, { size: 'as-recorded' });
  const state = async () =>
    (await stage.server.ask<{ id: string; state: string }[]>('GET', films)).find(
      (film) => film.id === id,
    )?.state;
  await expect.poll(state, { timeout: 180_000 }).toBe('done');
  return join(stage.server.home, 'films', `${id}.mp4`);
};

/** How far to the right a row of a frame is inked in a colour, as a fraction of its width. */
const inkedTo = (
  film: string,
  filmUs: number,
  y: number,
  colour: 'red' | 'green' = 'red',
): number => {
  const [width, height] = [1280, 720];
  const raw = execFileSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-i', film, '-ss', String(filmUs / 1e6), '-frames:v', '1'],
      ...['-vf', `scale=${width}:${height}`, '-pix_fmt', 'rgb24', '-f', 'rawvideo', 'pipe:1'],
    ],
    { maxBuffer: 1 << 24 },
  );
  const row = Math.round(y * height) * width * 3;
  for (let x = width - 1; x >= 0; x--) {
    const [red, green, blue] = raw.subarray(row + x * 3, row + x * 3 + 3);
    const isRed = red! > 110 && green! < red! * 0.5 && blue! < red! * 0.5;
    const isGreen = red! < 110 && green! > 130 && blue! > 100;
    if (colour === 'red' ? isRed : isGreen) return x / width;
  }
  return 0;
};

test('what is written is in the film where and when it was written', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  const id = 'lesson-board-film';
  await openBoard(page, id);
  // Written before the start: it is there from the first moment.
  await page.getByRole('radio', { name: 'Line' }).click();
  await page.getByRole('radio', { name: 'red' }).click();
  const ready = await handOver(page, 'mouse');
  await ready.write([
    [0.1, 0.2],
    [0.4, 0.2],
  ]);
  await startRecording(page);
  await page.getByRole('radio', { name: 'Pen' }).click();
  await page.getByRole('button', { name: /^The line is middling/ }).click();
  await recordFor(page, 1);
  const hand = await handOver(page, 'mouse', 25);
  await hand.write(
    [
      [0.1, 0.5],
      [0.9, 0.5],
    ],
    80,
  );
  await recordFor(page, 1);
  await stopRecording(page);
  const { ink } = await writtenIn(id);
  await page.getByRole('button', { name: /^Keep it/ }).click();
  await goToTidy(page);
  const film = join(stage.folder, 'board.mp4');
  await saveFilm(page, film, 'as recorded');
  const stroke = ink.strokes.find(({ pen }) => pen.tool === 'pen')!;
  const lengthUs = stroke.endUs - stroke.beganUs;
  for (const share of [-0.1, 0.25, 0.5, 0.8, 1.1]) {
    // The middle of a frame.
    const frame = Math.round(((stroke.beganUs + share * lengthUs) * 30) / 1e6);
    const us = Math.round(((frame + 0.5) * 1e6) / 30);
    const drawn = stroke.points.filter(({ atUs }) => atUs <= us).at(-1)?.x ?? 0;
    expect(Math.abs(inkedTo(film, us - 1e6 / 60, 0.5) - drawn), `at ${share}`).toBeLessThan(0.035);
  }
  expect(Math.abs(inkedTo(film, 100_000, 0.2) - 0.4)).toBeLessThan(0.02);

  // Afterwards, in Tidy: the line is recoloured and moved, the first one taken away, a box is added.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('button', { name: 'Write on the picture' }).click();
  await page
    .getByRole('button', { name: /^Select what was written/ })
    .last()
    .click();
  await expect(page.getByRole('group', { name: 'Selected' })).toContainText('selected');
  await page.getByRole('button', { name: 'Select none' }).click();
  const after = await handOver(page, 'mouse');
  await after.write([
    [0.5, 0.5],
    [0.5, 0.5],
  ]);
  const selected = page.getByRole('group', { name: 'Selected' });
  await expect(selected).toContainText('One stroke selected');
  await selected.getByRole('radio', { name: 'green' }).click();
  await after.write([
    [0.5, 0.5],
    [0.5, 0.7],
  ]);
  await page.getByRole('button', { name: 'Select none' }).click();
  await after.write([
    [0.25, 0.2],
    [0.25, 0.2],
  ]);
  await page.getByRole('button', { name: 'Take away what is selected' }).click();
  await expect(page.getByRole('button', { name: /^Bring back a stroke/ })).toBeVisible();
  await page.getByRole('radio', { name: 'Box' }).click();
  await after.write([
    [0.6, 0.2],
    [0.8, 0.4],
  ]);
  await expect(boardOf(page)).toHaveAccessibleName('The picture, 2 strokes');
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  await page.getByRole('button', { name: 'Done writing' }).click();
  await expect.poll(async () => (await stage.server.lesson(id)).decisions.addedInk.length).toBe(1);
  const mended = await filmMade(id);
  const endUs = stroke.endUs + 300_000;
  expect(inkedTo(mended, endUs, 0.5)).toBe(0);
  expect(Math.abs(inkedTo(mended, endUs, 0.7, 'green') - 0.9)).toBeLessThan(0.02);
  expect(Math.abs(inkedTo(mended, endUs, 0.3) - 0.8)).toBeLessThan(0.02);
  expect(inkedTo(mended, 100_000, 0.2)).toBe(0);
  await close();
});

test('a box, words, moving and taking away need no pointer', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await openBoard(page, 'lesson-board-keys');
  await page.getByRole('radio', { name: 'Pen' }).press('ArrowRight');
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'Box' })).toBeChecked();
  await boardOf(page).focus();
  await page.keyboard.press('Enter');
  for (let n = 0; n < 5; n++) await page.keyboard.press('ArrowRight');
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(boardOf(page)).toHaveAccessibleName('Board, page 1 of 1, one stroke');
  await page.getByRole('radio', { name: 'Box' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.getByLabel('Words to put on the page').fill('High water 0742');
  await page.keyboard.press('Enter');
  await expect(boardOf(page)).toHaveAccessibleName(
    'Board, page 1 of 1, 2 strokes; it says: High water 0742',
  );
  expect(await violations(page)).toEqual([]);
  await page.getByRole('radio', { name: 'Words' }).focus();
  await page.keyboard.press('ArrowRight');
  await boardOf(page).focus();
  // The corner of the box, in the middle of the page, where the hand of the keys began.
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 selected: drag to move')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(boardOf(page)).toHaveAccessibleName(/one stroke; it says: High water 0742$/);
  await close();
});

test('writes on the screen while it is captured, and opens the board over it', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  const id = 'lesson-written-over';
  await stage.server.ask('POST', '/api/lessons', { id, title: 'Reading a tide table' });
  await page.goto(`${stage.server.url}/lessons/${id}/record`);
  await choosePracticeVoice(page);
  await change(page, 'What to show', /practice screen/);
  await change(page, 'With', 'no camera');
  await startRecording(page);
  await recordFor(page, 1);
  await page.getByRole('button', { name: 'Write on what is captured' }).click();
  const hand = await handOver(page, 'mouse');
  await page.getByRole('radio', { name: 'Line' }).click();
  await hand.write([
    [0.2, 0.6],
    [0.7, 0.6],
  ]);
  await expect(boardOf(page)).toHaveAccessibleName('What is captured, one stroke');
  expect(await violations(page)).toEqual([]);
  await recordFor(page, 1);
  await page.getByRole('button', { name: 'Open the board' }).click();
  await recordFor(page, 1);
  await hand.write([
    [0.2, 0.3],
    [0.5, 0.3],
  ]);
  await recordFor(page, 1);
  await page.getByRole('button', { name: 'Leave the board' }).click();
  await recordFor(page, 1);
  await stopRecording(page);
  const { take, ink } = await writtenIn(id);
  expect(take.source).toBe('screen');
  expect(ink.turns.map(({ paper }) => paper.ruling)).toEqual(['none', 'squared', 'none']);
  await page.getByRole('button', { name: /^Keep it/ }).click();
  await goToTidy(page);
  const film = await filmMade(id);
  const [, opened, left] = ink.turns.map(({ atUs }) => atUs) as [number, number, number];
  const drawnUs = ink.strokes[0]!.endUs;
  expect(inkedTo(film, ink.strokes[0]!.beganUs - 200_000, 0.6)).toBeLessThan(0.2);
  expect(Math.abs(inkedTo(film, drawnUs + 200_000, 0.6) - 0.7)).toBeLessThan(0.02);
  expect(inkedTo(film, opened + 200_000, 0.6)).toBe(0);
  expect(Math.abs(inkedTo(film, left - 200_000, 0.3) - 0.5)).toBeLessThan(0.02);
  expect(Math.abs(inkedTo(film, left + 200_000, 0.6) - 0.7)).toBeLessThan(0.02);
  await close();
});

test('a tab that is killed while somebody writes loses two seconds of it at most', async () => {
  const first = await openBrowser({ viewport: WIDE });
  const id = 'lesson-board-torn';
  await openBoard(first.page, id);
  await startRecording(first.page);
  const hand = await handOver(first.page, 'mouse', 20);
  const wallMs = Date.now();
  for (let line = 0; line < 6; line++) {
    const y = 0.1 + line * 0.12;
    await hand.write(
      [
        [0.1, y],
        [0.8, y],
      ],
      30,
    );
  }
  const wroteMs = Date.now() - wallMs;
  await first.close();
  const second = await openBrowser({});
  await second.page.goto(`${stage.server.url}/lessons/${id}/record`);
  await second.page.getByRole('button', { name: 'Keep what there is' }).click();
  const { ink } = await writtenIn(id);
  const [begun, last] = [ink.strokes[0]!.beganUs, ink.strokes.at(-1)!.points.at(-1)!.atUs];
  expect(wroteMs - (last - begun) / 1000).toBeLessThan(2_000);
  await second.close();
});
