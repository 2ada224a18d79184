import { expect, test, type Page } from '@playwright/test';
import type { Edit } from '@under-chalk/core/edit/edit';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { placedIn } from '@under-chalk/core/lesson/lesson';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import { execFileSync } from 'node:child_process';
import {
  change,
  choosePractice,
  choosePracticeVoice,
  clapOnce,
  openBrowser,
  PHONE,
  newLesson,
  planLesson,
  recordFor,
  startRecording,
  stopRecording,
  WIDE,
  within,
} from './browser';
import { overhang, violations } from './checks';
import { clicksAt, flashesAt, makeSound, packetsIn, seenAfterHeard } from './media';
import { setStage } from './stage';

/** Record and look back, with what goes wrong in them. */

const stage = setStage();

const lessonOf = (id: string) => stage.server.lesson(id);
const sign = (page: Page) => page.getByTestId('recorder-sign');
const withTopics = async (title: string): Promise<string> => {
  const id = `lesson-${title.toLowerCase().replaceAll(' ', '-')}`;
  await stage.server.ask('POST', '/api/lessons', { id, title });
  const topic = (rank: number, text: string, words: string): Edit => ({
    do: 'set-topic',
    topic: { id: `${id}-topic-${rank}`, text, show: '', words, rank },
  });
  await stage.server.edit(
    id,
    topic(1, 'Low water', `Low water comes first. ${'It is early in the morning. '.repeat(30)}`),
    topic(2, 'High water', 'Six hours later the water is high.'),
  );
  return id;
};

test('the lesson’s evening: prompter, topics done, flub, camera, look back', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const id = await withTopics('Evening');
  // One of the teacher’s own layouts, kept before: the key 1 sets it.
  const kept = { id: 'kept-beside', name: 'Beside the table' };
  const layout = { ...DEFAULT_LAYOUT, kind: 'side' };
  await stage.server.ask('POST', '/api/layouts', { ...kept, layout });
  await page.goto(`${stage.server.url}/lessons/${id}/record`);
  await choosePractice(page);
  await expect(page.getByTestId('heard-words')).toHaveText('I hear you.', { timeout: 60_000 });
  await expect(page.getByTestId('surface-words')).toContainText('practice screen');
  expect(await violations(page)).toEqual([]);
  await startRecording(page);

  // The words move by themselves, can be held, and follow the topics if wanted.
  const words = page.getByTestId('prompter-words');
  const top = async () => (await words.boundingBox())!.y;
  const first = await top();
  await expect.poll(top).toBeLessThan(first - 5);
  await page.getByRole('button', { name: 'Hold the words' }).click();
  const held = await top();
  await page.waitForTimeout(1_000);
  expect(await top()).toBe(held);

  await page.keyboard.press('f');
  await page.getByRole('button', { name: /Mark a flub; 1 marked/ }).click();
  await page.getByRole('button', { name: 'Mark done: Low water' }).click();
  await page.keyboard.press('n');
  await page.getByRole('button', { name: 'Camera off' }).click();
  await recordFor(page, 1.5);
  await page.keyboard.press('c');
  await page.getByRole('button', { name: /^More to do while recording/ }).click();
  await page.getByRole('radio', { name: 'top left' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await recordFor(page, 0.5);
  await page.keyboard.press('1');
  await page.keyboard.press('p');
  await expect(sign(page)).toHaveText(/Paused/);
  await page.keyboard.press('p');
  await expect(sign(page)).toHaveText('Recording');
  expect(await violations(page)).toEqual([]);
  expect(await overhang(page)).toBe(0);
  await stopRecording(page);
  await expect(page.getByTestId('look-back-words')).toHaveText('There is sound.');
  await expect(page.getByRole('img', { name: /The film at/ })).toBeVisible({ timeout: 30_000 });
  expect(await violations(page)).toEqual([]);

  const { decisions, takes } = await lessonOf(id);
  const takeId = takes[0]!.id;
  expect(decisions.flubs).toHaveLength(2);
  expect(decisions.topicsDone.map((tick) => tick.topicId)).toEqual([
    `${id}-topic-1`,
    `${id}-topic-2`,
  ]);
  const layouts = [...decisions.layouts].sort((a, b) => a.startUs - b.startUs);
  expect(layouts.map(({ layout }) => layout.kind)).toEqual(['surface', 'inset', 'inset', 'side']);
  expect(layouts[2]!.layout.inset).toMatchObject({ placeX: 0, placeY: 0 });
  expect(layouts.every((stretch) => stretch.takeId === takeId)).toBe(true);
  // With the camera off nothing of the face was recorded: the frames in between are black.
  const hidden = (layouts[0]!.startUs + layouts[0]!.endUs) / 2e6;
  const luma = execFileSync('ffmpeg', [
    ...['-v', 'error', '-ss', String(hidden), '-i', stage.server.trackFile(takes[0]!, 'camera')],
    ...['-frames:v', '1', '-vf', 'scale=1:1,format=gray', '-f', 'rawvideo', 'pipe:1'],
  ])[0]!;
  expect(luma).toBeLessThan(24);

  await page.getByRole('button', { name: /^Keep it/ }).click();
  await page.getByRole('list', { name: 'Phrases of take 1' }).waitFor({ timeout: 30_000 });
  await expect(page.getByText(/flub marked at/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Last look' }).click();
  await expect(page.getByRole('list', { name: 'Chapters' }).getByRole('listitem')).toHaveCount(2);
  expect(complaints).toEqual([]);
  await close();
});

test('say that again: ends before the phrase, plays it, counts in and goes on as another take', async () => {
  const { page, close } = await openBrowser({});
  const id = await newLesson(page, stage.server.url, 'Said again');
  await choosePractice(page);
  await startRecording(page);
  // The practice voice says phrases of some seconds with pauses between.
  await recordFor(page, 11);
  await page.getByRole('button', { name: 'Say that again' }).click();
  await expect(sign(page)).toHaveText(/listen, then say it again/);
  await expect(sign(page)).toHaveText(/Not yet/, { timeout: 15_000 });
  await expect(sign(page)).toHaveText('Recording', { timeout: 15_000 });
  await recordFor(page, 3);
  await stopRecording(page);
  await expect
    .poll(async () => (await lessonOf(id)).takes.filter((take) => take.state === 'ready').length)
    .toBe(2);
  const after = await lessonOf(id);
  const { takes } = after;
  const [first, second] = placedIn(after);
  expect([first!.takeId, second!.takeId]).toEqual([takes[0]!.id, takes[1]!.id]);
  expect(first!.endUs).toBeGreaterThan(2_000_000);
  expect(first!.endUs).toBeLessThan(takes[0]!.durationUs - 500_000);
  expect(second!.endUs).toBeNull();
  // All of the first is still there.
  expect(takes[0]!.durationUs).toBeGreaterThan(10_000_000);
  await close();
});

test('a take is recorded again in its place; a part of the surface, another surface in the middle', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  const id = await newLesson(page, stage.server.url, 'Again and elsewhere');
  await choosePractice(page);
  await page.getByRole('button', { name: 'Show only a part' }).click();
  await page.getByTestId('crop-box').scrollIntoViewIfNeeded();
  const box = (await page.getByTestId('crop-box').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.1, box.y + box.height * 0.1);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.6, { steps: 6 });
  await page.mouse.up();
  await page.getByRole('slider', { name: /left edge/ }).press('ArrowRight');
  await page.getByRole('button', { name: 'This part' }).click();
  await startRecording(page);
  await recordFor(page, 2.5);
  // The browser's own fake screen takes the place of the practice one, in the same take.
  await page.getByRole('button', { name: /^More to do while recording/ }).click();
  await page.getByRole('button', { name: 'Choose something else to show' }).click();
  await expect(page.getByTestId('surface-words')).not.toContainText('practice');
  await page.keyboard.press('Escape');
  await recordFor(page, 4);
  await stopRecording(page);
  await expect.poll(async () => (await lessonOf(id)).takes[0]?.state).toBe('ready');
  const before = await lessonOf(id);
  const [take] = before.takes;
  const crop = before.decisions.crops[0]!;
  expect(crop.takeId).toBe(take!.id);
  expect(crop.crop.x).toBeCloseTo(0.11, 1);
  expect(crop.crop.width).toBeCloseTo(0.49, 1);
  expect(take!.durationUs).toBeGreaterThan(4_500_000);
  const shown = (seconds: number) =>
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-ss', String(seconds), '-i', stage.server.trackFile(take!, 'surface')],
      ...['-frames:v', '1', '-vf', 'scale=8:8,format=gray', '-f', 'rawvideo', 'pipe:1'],
    ]);
  const last = shown(take!.durationUs / 1e6 - 0.5);
  const apart = [...shown(1)].reduce((sum, luma, at) => sum + Math.abs(luma - last[at]!), 0);
  expect(apart / 64).toBeGreaterThan(15);

  await page.getByRole('button', { name: 'Record this take again' }).click();
  await expect(page.getByText('The next take replaces Take 1.')).toBeVisible();
  await change(page, 'How it begins', 'none');
  await change(page, 'What to show', /practice screen/);
  const again = page.getByRole('button', { name: 'Record Take 1 again' }).last();
  await expect(again).toBeEnabled({ timeout: 15_000 });
  await again.click();
  await expect(sign(page)).toHaveText('Recording', { timeout: 30_000 });
  await recordFor(page, 2);
  await stopRecording(page);
  await expect.poll(async () => placedIn(await lessonOf(id)).length).toBe(1);
  const after = await lessonOf(id);
  expect(placedIn(after)[0]!.takeId).toBe(after.takes[1]!.id);
  expect(after.takes).toHaveLength(2);
  await close();
});

test('silence in the middle is said, without stopping; a quiet voice is told from a good one', async () => {
  // Speaks for eight seconds, then is still.
  const voice = makeSound(stage.folder, String.raw`aevalsrc=0.2*sin(2*PI*300*t)*lt(t\,14):s=48000`);
  const { page, close } = await openBrowser({ voice });
  await newLesson(page, stage.server.url, 'Silence');
  await change(page, 'What to show', /^Sound alone/);
  await expect(page.getByTestId('heard-words')).toHaveText('I hear you.', { timeout: 60_000 });
  await startRecording(page);
  await expect(page.getByText('Nothing has been heard for a while.')).toBeVisible({
    timeout: 40_000,
  });
  await expect(sign(page)).toHaveText('Recording');
  await stopRecording(page);
  await close();
});

test('the limit is on the clock: calm, then clear, and at the end it goes on', async () => {
  await stage.server.ask('POST', '/api/destinations', {
    ...{ id: 'twenty-seconds', name: 'Twenty seconds', leastUs: 0, mostUs: 20_000_000 },
    ...{ mostBytes: null, size: '720p', captionsRequired: false },
  });
  const { page, close } = await openBrowser({});
  const id = await newLesson(page, stage.server.url, 'Limit');
  await stage.server.edit(id, { do: 'plan', set: { destinationId: 'twenty-seconds' } });
  await page.reload();
  await choosePracticeVoice(page);
  await startRecording(page);
  await expect(page.getByText('Less than a minute left.')).toBeVisible();
  await expect(page.getByText(/0:1\d left: come to the end/)).toBeVisible({ timeout: 15_000 });
  await expect(
    page.getByText(/over the 20 s of “Twenty seconds”. It goes on recording/),
  ).toBeVisible({ timeout: 30_000 });
  await expect(sign(page)).toHaveText('Recording');
  await recordFor(page, 1.5);
  await stopRecording(page);
  await expect
    .poll(async () => (await lessonOf(id)).takes[0]?.durationUs)
    .toBeGreaterThan(20_500_000);
  await close();
});

test('keys do nothing while typing, can be changed, and the page asks before it is left', async () => {
  const { page, close } = await openBrowser({});
  await newLesson(page, stage.server.url, 'Keys');
  await choosePracticeVoice(page);
  await within(page, 'How it begins', async () => {
    await page.getByRole('button', { name: 'Change the key for Mark a flub' }).click();
    await page.keyboard.press('x');
    await expect(page.getByRole('list', { name: 'Keys while recording' })).toContainText('X');
  });
  await startRecording(page);
  await page.keyboard.press('f');
  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: /Mark a flub; 1 marked/ })).toBeVisible();
  const asked = new Promise<string>((resolve) => {
    page.on('dialog', (dialog) => {
      resolve(dialog.type());
      void dialog.dismiss();
    });
  });
  await page.evaluate(() => location.reload());
  expect(await asked).toBe('beforeunload');
  await expect(sign(page)).toHaveText('Recording');
  await page.keyboard.press('s');
  await page.getByText(/It is safe on the server/).waitFor();
  await close();
});

test('going back asks while it records; it stays, or stops and goes back with the take kept', async () => {
  const { page, close } = await openBrowser({});
  const id = await planLesson(page, stage.server.url, 'Going back');
  await choosePracticeVoice(page);
  await startRecording(page);
  for (let times = 0; times < 2; times++) {
    await page.goBack();
    await expect(page.getByText('Going back ends it here.')).toBeVisible();
    await expect(sign(page)).toHaveText('Recording');
    await page.getByRole('button', { name: 'Stay here' }).click();
    await expect(page.getByText('Going back ends it here.')).toBeHidden();
  }
  await page.waitForTimeout(1_000);
  await page.goBack();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Stop and go back' }).click();
  await expect(page).toHaveURL(/\/plan$/, { timeout: 60_000 });
  await expect(page.getByRole('heading', { name: 'Plan', exact: true })).toBeVisible();
  expect((await stage.server.takeWhen(id)).durationUs).toBeGreaterThan(1_500_000);

  // After a take that ended with the stop button the history is as it was before.
  await page.getByRole('link', { name: 'Record' }).click();
  await startRecording(page);
  await stopRecording(page);
  await expect(page).toHaveURL(/\/record$/);
  await page.goBack();
  await expect(page).toHaveURL(/\/plan$/);
  await close();
});

test(
  'a browser that gives no frames by itself records the same, picture and sound together',
  { tag: '@alone' },
  async () => {
    const { page, close, complaints } = await openBrowser({ fullRate: true });
    await page.addInitScript(() => {
      Reflect.deleteProperty(globalThis, 'MediaStreamTrackProcessor');
    });
    const id = await newLesson(page, stage.server.url, 'Another browser');
    await choosePractice(page);
    await startRecording(page);
    for (const pause of [2_500, 1_900, 3_600]) {
      await recordFor(page, pause / 1000);
      await clapOnce(page);
    }
    await recordFor(page, 1.5);
    await stopRecording(page);
    const take = await stage.server.takeWhen(id);
    const file = (kind: TrackKind) => stage.server.trackFile(take, kind);
    const seconds = take.durationUs / 1e6;
    // A frame more or less than it asked for is a busy machine; half of them would be a slide show.
    expect(packetsIn(file('surface')) / seconds).toBeGreaterThan(20);
    const middle = { x: 0.4, y: 0.4, width: 0.1, height: 0.1 };
    const clicks = clicksAt(file('voice'));
    for (const kind of ['surface', 'camera'] as const) {
      const flashes = flashesAt(file(kind), middle);
      expect(flashes).toHaveLength(3);
      const apart = seenAfterHeard(flashes, clicks);
      expect(Math.min(...apart.map(Math.abs)), `${kind}: ${apart.join(' ')}`).toBeLessThan(0.06);
      expect(Math.max(...apart), `${kind}: ${apart.join(' ')}`).toBeLessThan(0.3);
    }
    expect(complaints).toEqual([]);
    await close();
  },
);

test('the small window on top shows the sign, the words and the buttons, and they work', async () => {
  const { page, context, close } = await openBrowser({ viewport: WIDE });
  const id = await withTopics('Small window');
  await page.goto(`${stage.server.url}/lessons/${id}/record`);
  await choosePractice(page);
  await startRecording(page);
  await page.getByRole('button', { name: /^More to do while recording/ }).click();
  const [small] = await Promise.all([
    context.waitForEvent('page'),
    page.getByRole('button', { name: 'Small window on top' }).click(),
  ]);
  await expect(small.getByTestId('small-sign')).toHaveText('Recording');
  await expect(small.getByText(/Low water comes first/)).toBeVisible();
  await small.getByRole('button', { name: 'Flub' }).click();
  await small.getByRole('button', { name: 'Mark done: Low water' }).click();
  await small.getByRole('button', { name: 'Pause' }).click();
  await expect(small.getByTestId('small-sign')).toHaveText(/Paused/);
  await expect(sign(page)).toHaveText(/Paused/);
  await small.getByRole('button', { name: 'Stop' }).click();
  await page.getByText(/It is safe on the server/).waitFor({ timeout: 30_000 });
  const { decisions } = await lessonOf(id);
  expect([decisions.flubs.length, decisions.topicsDone.length]).toEqual([1, 1]);
  await close();
});
