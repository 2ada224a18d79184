import { expect, test, type Page } from '@playwright/test';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { change, openBrowser, PHONE, recordFor, WIDE } from './browser';
import { makeSound } from './media';
import { ROOT } from './server';
import { setStage } from './stage';
import { focusIsLost, Touches } from './touches';

/**
 * How often a hand has to do something, from *ready* to *copied*, the second time on a device. Fails when it grows.
 */

const stage = setStage();
const MOST = { note: 5, lesson: 8, lessonCut: 14, lessonCutKeys: 90 } as const;
const found: Partial<Record<keyof typeof MOST, number>> = {};

test.afterAll(() => {
  if (Object.keys(found).length < Object.keys(MOST).length) return;
  const path = join(ROOT, 'bench/results/touches.json');
  const text = `${JSON.stringify({ name: 'touches', ...found })}\n`;
  mkdirSync(join(ROOT, 'bench/results'), { recursive: true });
  const before = (() => {
    try {
      return readFileSync(path, 'utf8');
    } catch {
      return '';
    }
  })();
  if (before !== text) writeFileSync(path, text);
});

/** Speech-like: a second of tone, a second of quiet. */
const voice = () =>
  makeSound(stage.folder, String.raw`aevalsrc=0.25*sin(2*PI*300*t)*lt(mod(t\,2)\,1):s=48000`);

const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', typeof name === 'string' ? { name, exact: true } : { name }).first();

/** Opens Record of a new lesson on a device on which something has been recorded before. */
const ready = async (
  source: RegExp,
  viewport: { width: number; height: number },
  title: string,
) => {
  const opened = await openBrowser({ viewport, voice: voice() });
  const { page, context } = opened;
  await context.grantPermissions(['camera', 'microphone', 'clipboard-read', 'clipboard-write'], {
    origin: stage.server.url,
  });
  const id = `lesson-${title.toLowerCase().replaceAll(' ', '-')}`;
  await stage.server.ask('POST', '/api/lessons', { id, title });
  await page.goto(`${stage.server.url}/lessons/${id}/record`);
  await change(page, 'What to show', source);
  await page.reload();
  await page.getByTestId('heard-words').filter({ hasText: 'I hear you.' }).waitFor();
  return { ...opened, id, touches: new Touches(page) };
};

const copied = (page: Page) => expect(page.getByText('Copied.')).toBeVisible({ timeout: 120_000 });
const recordSome = async (page: Page, seconds: number) => {
  await expect(page.getByTestId('recorder-sign')).toHaveText('Recording', { timeout: 30_000 });
  await recordFor(page, seconds);
};
/** The phrases of the take, once they are there. */
const phrases = async (page: Page) => {
  const list = page.getByRole('list', { name: 'Phrases of take 1' });
  await list.waitFor({ timeout: 120_000 });
  await expect(list.getByRole('button', { name: /^Cut phrase/ }).nth(4)).toBeVisible();
  return list.getByRole('button', { name: /^Cut phrase/ });
};

test('twenty seconds of camera, to a copied link', async () => {
  const { page, touches, close } = await ready(/camera alone/, PHONE, 'A note');
  await touches.press(button(page, 'Start recording'));
  await recordSome(page, 6);
  await touches.press(button(page, 'Stop'));
  await touches.press(button(page, 'Hand it out as it is'));
  await touches.press(button(page, 'Make a link and copy it'));
  await copied(page);
  expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(/\/w\/[\w-]{22}$/);
  await expect(button(page, 'Copy the link')).toBeFocused();
  found.note = touches.count;
  expect(touches.count).toBeLessThanOrEqual(MOST.note);
  await close();
});

/** Records a screen with an inset, and cuts both ends off. */
const lesson = async (page: Page, touches: Touches) => {
  await touches.press(button(page, 'Choose what to show, and start'));
  await recordSome(page, 11);
  await touches.press(button(page, 'Stop'));
  await touches.press(button(page, 'Keep it, and tidy'));
  const cuts = await phrases(page);
  await touches.press(cuts.first());
  await touches.press(cuts.last());
};

test('a screen lesson with inset, both ends trimmed, to a copied link', async () => {
  const { page, touches, close } = await ready(/^A screen/, PHONE, 'A lesson');
  await lesson(page, touches);
  await touches.press(page.getByRole('link', { name: 'Hand out' }));
  await touches.press(button(page, 'Make a link and copy it'));
  await copied(page);
  found.lesson = touches.count;
  expect(touches.count).toBeLessThanOrEqual(MOST.lesson);
  await close();
});

test('the same with three seconds cut out of the middle, the inset moved, and a file', async () => {
  const { page, touches, close, id } = await ready(/^A screen/, WIDE, 'A cut lesson');
  await lesson(page, touches);
  const length = async () => (await stage.server.film(id)).durationUs;
  const before = await length();
  await touches.press(button(page, /^Phrase 3, .* Open$/));
  await touches.type(page.getByRole('spinbutton', { name: /^to,/ }), '0:06.0');
  await touches.type(page.getByRole('spinbutton', { name: /^From,/ }), '0:03.0');
  await touches.press(button(page, 'Cut these 3.0 s'));
  await expect.poll(length).toBeLessThan(before - 2_900_000);
  await touches.drag(page.getByTestId('inset-handle'), -200, -150);
  await touches.press(page.getByRole('link', { name: 'Hand out' }));
  await touches.press(button(page, 'Make a link and copy it'));
  await copied(page);
  await touches.press(button(page, 'Export film'));
  // Made first, however busy the machine is; then it is saved at once.
  const save = button(page, /^Save /);
  await save.waitFor({ timeout: 180_000 });
  const saving = page.waitForEvent('download');
  await touches.press(save);
  await saving;
  const { decisions } = await stage.server.lesson(id);
  expect(decisions.layouts.at(-1)!.layout.inset.placeX).toBeLessThan(0.9);
  found.lessonCut = touches.count;
  expect(touches.count).toBeLessThanOrEqual(MOST.lessonCut);
  await close();
});

test('the same by keys alone, with the focus somewhere after every press', async () => {
  const { page, touches, close, id } = await ready(/^A screen/, WIDE, 'By keys alone');
  const enter = async () => {
    await touches.key('Enter');
    await page.waitForTimeout(250);
    expect(await focusIsLost(page)).toBe(false);
  };
  await touches.reach(button(page, 'Choose what to show, and start'));
  await enter();
  await recordSome(page, 11);
  await expect(page.getByRole('heading', { name: 'Recording' })).toBeFocused();
  await touches.key('s');
  await expect(page.getByRole('heading', { name: 'Look back' })).toBeFocused({ timeout: 30_000 });
  await touches.reach(button(page, 'Keep it, and tidy'));
  await enter();
  await expect(page.getByRole('heading', { name: 'Tidy', level: 1 })).toBeFocused();
  const cuts = await phrases(page);

  // Both ends: what was cut can be brought back at once, there is the focus.
  await touches.reach(cuts.first());
  await enter();
  await expect(button(page, /^Bring back/)).toBeFocused();
  await touches.reach(button(page, /^Phrase 3, .* Open$/));
  await enter();
  await touches.reach(page.getByRole('spinbutton', { name: /^From,/ }));
  await touches.typeHere('0:03.0');
  await touches.reach(page.getByRole('spinbutton', { name: /^to,/ }));
  await touches.typeHere('0:06.0');
  // The inset, for the whole take, by its corners.
  await touches.reach(
    page.getByRole('radiogroup', { name: 'Change it for' }).getByRole('radio').first(),
  );
  await touches.key('ArrowRight', 2);
  const corners = page.getByRole('radiogroup', { name: 'Place of the inset' });
  await touches.reach(corners.locator('[tabindex="0"]'));
  await touches.key('ArrowLeft');
  await expect(corners.getByRole('radio', { name: 'bottom left' })).toBeFocused();
  await expect
    .poll(async () => (await stage.server.lesson(id)).decisions.layouts.at(-1)?.layout.inset.placeX)
    .toBe(0);

  const length = async () => (await stage.server.film(id)).durationUs;
  const before = await length();
  await touches.reach(button(page, 'Cut these 3.0 s'), 'Shift+Tab');
  await enter();
  await expect.poll(length).toBeLessThan(before - 2_900_000);
  await expect(page.getByRole('button', { name: /^Bring back 3 s/ })).toBeFocused();
  // To the last phrase, however many there are.
  await touches.key('Tab');
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', /^Phrase \d+, /);
  await touches.key('End');
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', /^Phrase \d+, /);
  await touches.reach(cuts.last());
  await enter();
  await expect(page.getByRole('button', { name: /^Bring back/ }).last()).toBeFocused();

  // The steps of the lesson are at the top of the page: the other way round.
  await touches.reach(button(page, 'Last look'));
  await enter();
  await touches.reach(button(page, 'Hand out'));
  await enter();
  await expect(page.getByRole('heading', { name: 'Hand out', level: 1 })).toBeFocused();
  await touches.reach(button(page, 'Make a link and copy it'));
  await enter();
  await copied(page);
  await expect(button(page, 'Copy the link')).toBeFocused();
  await touches.reach(button(page, 'Export film'));
  await enter();
  await expect(button(page, /^Save /)).toBeVisible({ timeout: 120_000 });
  await touches.reach(button(page, /^Save /), 'Shift+Tab');
  const saving = page.waitForEvent('download');
  await enter();
  await saving;
  found.lessonCutKeys = touches.count;
  expect(touches.count).toBeLessThanOrEqual(MOST.lessonCutKeys);
  await close();
});
