#!/usr/bin/env node
/** Takes the pictures in docs/screenshots anew, from the demo's lessons; with names, those alone. Look at each before committing it. */
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as build from './lib/build.mjs';
import { root, run } from './lib/say.mjs';

const PORT = process.env.PORT ?? '4770';
const origin = `http://127.0.0.1:${PORT}`;
const PHONE = { width: 390, height: 844 };
const WIDE = { width: 1280, height: 800 };
const TABLE = 'lesson-reading-a-tide-table';
const WELCOME = 'lesson-week-four-welcome';
const TWELFTHS = 'lesson-rule-of-twelfths';
const PLOT = 'lesson-plotting-a-course';

await build.app();
await build.server();
const home = mkdtempSync(join(tmpdir(), 'under-chalk-shots-'));
const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
  stdio: 'ignore',
  env: { ...process.env, PORT, UNDER_CHALK_HOME: home, UNDER_CHALK_DEMO: '1' },
});
const ask = async (path) => (await fetch(origin + path)).json();
const tell = async (path, body = {}) => {
  const headers = { 'Content-Type': 'application/json' };
  const answer = await fetch(origin + path, {
    method: 'POST',
    headers,
    body: JSON.stringify(body),
  });
  return answer.json();
};
for (;;) {
  if (
    await fetch(`${origin}/api/health`).then(
      () => true,
      () => false,
    )
  )
    break;
  await new Promise((resolve) => setTimeout(resolve, 200));
}
await run(process.execPath, [join(root, 'server/dist/seed.js'), origin, join(root, 'demo/media')]);
let shareLink;
do {
  await new Promise((resolve) => setTimeout(resolve, 500));
  [shareLink] = await ask(`/api/lessons/${WELCOME}/share-links`);
} while (shareLink.film.state !== 'done');

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    ...['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
    ...['--disable-background-networking', '--disable-component-update', '--disable-sync'],
    ...['--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream'],
    '--autoplay-policy=no-user-gesture-required',
  ],
});

/** Opens a page, lets `act` bring it about, and takes its picture. */
const only = process.argv.slice(2);
const shoot = async (name, viewport, path, act = async () => undefined) => {
  if (only.length > 0 && !only.includes(name)) return;
  const context = await browser.newContext({ viewport });
  const page = await context.newPage();
  page.setDefaultTimeout(30_000);
  await page.goto(origin + path);
  await page.waitForTimeout(2_000);
  await act(page);
  await page.waitForTimeout(700);
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
  await context.close();
};

const change = async (page, line, ...names) => {
  const opener = page.getByRole('button', { name: new RegExp(`^${line}: `) });
  await opener.click();
  for (const name of names) {
    await page.getByRole('radio', { name, exact: typeof name === 'string' }).click();
  }
  const done = page.getByRole('button', { name: 'Done', exact: true });
  if (await done.isVisible()) await done.click();
  else await opener.click();
};

const practise = async (page) => {
  await change(page, 'What to show', /practice screen/);
  await change(page, 'With', 'Practice teacher', 'Practice voice');
  await page.waitForTimeout(4_000);
  await page.getByRole('heading', { name: 'Record', exact: true }).scrollIntoViewIfNeeded();
};
const record = async (page) => {
  await practise(page);
  await change(page, 'How it begins', 'none');
  await page.getByRole('button', { name: 'Start recording' }).click();
  await page.getByTestId('chalk-whole').waitFor();
  await page.waitForTimeout(9_000);
};
/** Shows a chart, and marks on it where to go. */
const showChart = async (page) => {
  await change(page, 'What to show', /^Materials/);
  await change(page, 'With', 'Practice teacher', 'Practice voice');
  await change(page, 'How it begins', 'none');
  await page.getByRole('button', { name: 'Start recording' }).click();
  await page.getByTestId('chalk-whole').waitFor();
  const box = await page.getByTestId('board').boundingBox();
  const at = (x, y) => [box.x + x * box.width, box.y + y * box.height];
  const drag = async (tool, colour, from, to) => {
    await page.getByRole('radio', { name: tool, exact: true }).click();
    await page.getByRole('radio', { name: colour, exact: true }).click();
    await page.mouse.move(...at(...from));
    await page.mouse.down();
    await page.mouse.move(...at(...to), { steps: 8 });
    await page.mouse.up();
  };
  await drag('Ring', 'red', [0.69, 0.38], [0.79, 0.55]);
  await drag('Arrow', 'blue', [0.17, 0.71], [0.69, 0.49]);
  await page.waitForTimeout(6_000);
};
/** Writes on the board: the axes, the tide, and what matters in it. */
const write = async (page) => {
  await change(page, 'What to show', /^The board/);
  await change(page, 'With', 'Practice teacher', 'Practice voice');
  await change(page, 'How it begins', 'none');
  await page.getByRole('button', { name: 'Start recording' }).click();
  await page.getByTestId('chalk-whole').waitFor();
  const box = await page.getByTestId('board').boundingBox();
  const draw = async (...places) => {
    const [first, ...rest] = places.map(([x, y]) => [
      box.x + x * box.width,
      box.y + y * box.height,
    ]);
    await page.mouse.move(...first);
    await page.mouse.down();
    for (const place of rest) await page.mouse.move(...place, { steps: 3 });
    await page.mouse.up();
  };
  const pick = (name) => page.getByRole('radio', { name, exact: true }).click();
  await pick('Arrow');
  await draw([0.08, 0.85], [0.08, 0.1]);
  await draw([0.08, 0.85], [0.66, 0.85]);
  await pick('Pen');
  await pick('blue');
  const tide = Array.from({ length: 40 }, (_, n) => [
    0.1 + n * 0.0125,
    0.45 + 0.3 * Math.cos((n / 39) * Math.PI),
  ]);
  await draw(...tide);
  await pick('Mark');
  await pick('amber');
  await draw([0.26, 0.62], [0.44, 0.28]);
  await pick('Ring');
  await pick('red');
  await draw([0.56, 0.08], [0.66, 0.24]);
  await page.waitForTimeout(2_000);
};
const lookBack = async (page) => {
  await record(page);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('img', { name: /The film at/ }).waitFor();
  await page.waitForTimeout(3_000);
};
const openPhrase = async (page) => {
  await page.getByRole('button', { name: /^Phrase 4,/ }).click();
  await page.waitForTimeout(800);
};

/** Opens the third caption, with its place in the picture. */
const openCaption = async (page) => {
  await page.getByRole('button', { name: /^Caption 3, at/ }).click();
  await page.getByRole('button', { name: /^Caption 3, at/ }).click();
};

/** What is told beforehand, once all pictures have been looked through. */
const showChecks = async (page) => {
  await page.getByText('can be read on a phone').waitFor({ timeout: 120_000 });
  await page
    .getByRole('heading', { name: 'Before students see it' })
    .evaluate((heading) => heading.scrollIntoView({ block: 'center' }));
};

const CLASS = 'class-coastal-navigation';
/** A student's own page, with what is on this week and what was. */
const pageOfStudent = async () => {
  const grants = [{ grantee: { is: 'class', classId: CLASS } }];
  await tell(`/api/lessons/${TWELFTHS}/share-links`, { size: '720p', grants });
  const { students } = await ask(`/api/classes/${CLASS}`);
  const { key } = await tell(`/api/students/${students[0].id}/page`);
  return `/s/${key}`;
};
if (only.length === 0 || only.includes('student-page-phone'))
  await shoot('student-page-phone', PHONE, await pageOfStudent());
await shoot('class-phone', PHONE, '/classes/class-coastal-navigation');
await shoot('lessons-phone', PHONE, '/');
await shoot('lessons-wide', WIDE, '/');
await shoot('plan-phone', PHONE, `/lessons/${TWELFTHS}/plan`);
await shoot('plan-wide', WIDE, `/lessons/${TWELFTHS}/plan`);
await shoot('ready-phone', PHONE, `/lessons/${TABLE}/record`, practise);
await shoot('tidy-phone', PHONE, `/lessons/${WELCOME}/tidy`, openPhrase);
await shoot('tidy-wide', WIDE, `/lessons/${WELCOME}/tidy`, openPhrase);
await shoot('words-phone', PHONE, `/lessons/${TWELFTHS}/words`, openCaption);
await shoot('last-look-phone', PHONE, `/lessons/${WELCOME}/last-look`, showChecks);
await shoot('hand-out-phone', PHONE, `/lessons/${WELCOME}/hand-out`);
await shoot('watch-phone', PHONE, `/w/${shareLink.token}`);
await shoot('recording-phone', PHONE, `/lessons/${TWELFTHS}/record`, record);
await shoot('recording-wide', WIDE, `/lessons/${TWELFTHS}/record`, record);
await shoot('board-phone', PHONE, `/lessons/${TWELFTHS}/record`, write);
await shoot('board-wide', WIDE, `/lessons/${TWELFTHS}/record`, write);
await shoot('material-phone', PHONE, `/lessons/${PLOT}/record`, showChart);
await shoot('look-back-phone', PHONE, `/lessons/${TWELFTHS}/record`, lookBack);
await browser.close();
await new Promise((resolve) => {
  server.once('exit', resolve);
  server.kill();
});
rmSync(home, { recursive: true, force: true });
