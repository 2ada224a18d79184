import { expect, test } from '@playwright/test';
import { LEFT_AS_IT_IS } from '@under-chalk/core/pointer/look';
import type { PointerState } from '@under-chalk/core/pointer/found';
import { join } from 'node:path';
import {
  change,
  choosePractice,
  goToTidy,
  openBrowser,
  PHONE,
  newLesson,
  recordFor,
  saveFilm,
  startRecording,
  stopRecording,
} from './browser';
import { overhang, tooSmall, violations } from './checks';
import { ffmpeg } from './media';
import { setStage } from './stage';

/** A captured screen: its pointer is found in the pictures. */

const stage = setStage({ readings: true });

test('the pointer of a captured screen is found, and a halo goes with it in the film, on a phone', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE, fullRate: true });
  const id = await newLesson(page, stage.server.url, 'Reading a tide table');
  await choosePractice(page);
  await change(page, 'With', 'no camera');
  await startRecording(page);
  await recordFor(page, 7);
  await stopRecording(page);
  const take = await stage.server.takeWhen(id);
  await goToTidy(page);

  // Offered once it has been found, and until then nothing is round it.
  const line = page.getByRole('button', { name: /^Round the pointer on the screen there is/ });
  await expect(line).toHaveAccessibleName(/: nothing\./, { timeout: 120_000 });
  await line.click();
  await expect(page.getByText(/^Found for \d+ % of what the screen shows/)).toBeVisible();
  await page.getByRole('radio', { name: 'a halo', exact: true }).click();
  await page.getByRole('radio', { name: 'never', exact: true }).click();
  expect(await violations(page)).toEqual([]);
  expect(await tooSmall(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await page.keyboard.press('Escape');
  await expect(line).toHaveAccessibleName(/: a halo\./);

  const film = join(stage.folder, 'screen.mp4');
  await saveFilm(page, film);
  const state = (await (
    await fetch(`${stage.server.url}/api/takes/${take.id}/pointer`)
  ).json()) as PointerState;
  if (state.is !== 'found') throw new Error(state.is);
  expect(state.found.sureShare).toBeGreaterThan(0.6);
  const moves = state.found.runs.flatMap((run) => run.moves);
  /** How amber a small part of the film is: red less blue. */
  const amber = (us: number, x: number, y: number) => {
    const crop = `crop=36:36:${Math.round(x - 18)}:${Math.round(y - 18)},scale=1:1:flags=area,format=rgb24`;
    const at = ['-ss', (us / 1e6).toFixed(3), '-i', film, '-frames:v', '1', '-vf', crop];
    const [red, , blue] = ffmpeg(...at, '-f', 'rawvideo', '-');
    return red! - blue!;
  };
  for (const { atUs, x, y } of [moves[5]!, moves[Math.floor(moves.length / 2)]!, moves.at(-3)!]) {
    const [across, down] = [x * 1280, y * 1280];
    expect(amber(atUs + 8_000, across, down)).toBeGreaterThan(30);
    expect(amber(atUs + 8_000, 1280 - across, 720 - down)).toBeLessThan(20);
  }

  // Taken back it is as it was.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(line).toHaveAccessibleName(/: nothing\./);
  expect((await stage.server.lesson(id)).decisions.screenPointer).toEqual(LEFT_AS_IT_IS);
  expect(complaints).toEqual([]);
  await close();
});
