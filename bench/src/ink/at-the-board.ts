/** Writing in a browser: how soon ink is seen, frames on a full page, what a killed tab costs, preview and film. */
import { readInk } from '@under-chalk/core/ink/record';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import { trackOf } from '@under-chalk/core/lesson/take';
import { frameToUs } from '@under-chalk/core/time/frames';
import {
  change,
  choosePracticeVoice,
  openBrowser,
  startRecording,
  WIDE,
} from '@under-chalk/e2e/browser';
import { handOver, type Hand } from '@under-chalk/e2e/hand';
import type { RealServer } from '@under-chalk/e2e/server';
import { run } from '@under-chalk/render/ffmpeg/run';
import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const openBoard = async (page: Page, server: RealServer, id: string) => {
  await server.ask('POST', '/api/lessons', { id, title: 'Board' });
  await page.goto(`${server.url}/lessons/${id}/record`);
  await choosePracticeVoice(page);
  await change(page, 'What to show', /^The board/);
  await change(page, 'With', 'no camera');
  await page.getByTestId('board').waitFor();
};

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0;

/** A line of waves across the page at a height. */
const wave = (y: number): (readonly [number, number])[] =>
  Array.from({ length: 40 }, (_, n) => [0.05 + (n / 40) * 0.9, y + 0.03 * Math.sin(n)] as const);

/**
 * From a pointer's event to the end of the frame that shows its ink, ms; and frames that took longer than 20 ms while
 * somebody draws.
 */
const drawing = async (page: Page, hand: Hand, lines: number) => {
  await page.evaluate(() => {
    const bench = { events: [] as number[], seen: [] as number[], frames: [] as number[] };
    Object.assign(window, { bench });
    let waiting: number[] = [];
    window.addEventListener('pointermove', (event) => waiting.push(event.timeStamp), true);
    let before = performance.now();
    const channel = new MessageChannel();
    let shown: number[] = [];
    channel.port1.onmessage = () => {
      const now = performance.now();
      bench.seen.push(...shown.map((at) => now - at));
      shown = [];
    };
    const frame = (now: number) => {
      bench.frames.push(now - before);
      before = now;
      // Events that came before this frame are painted in it; its message comes once it is done.
      if (waiting.length > 0) {
        shown.push(...waiting);
        waiting = [];
        channel.port2.postMessage(null);
      }
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  for (let line = 0; line < lines; line++) await hand.write(wave(0.1 + (line % 8) * 0.05), 3);
  return page.evaluate(() => {
    const { seen, frames } = (window as never as { bench: { seen: number[]; frames: number[] } })
      .bench;
    return { seen, frames: frames.slice(5) };
  });
};

export const writingFigures = async (
  server: RealServer,
): Promise<{ pointerToInkMs: { p50: number; p95: number }; slowFrameShare: number }> => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await openBoard(page, server, 'lesson-bench-drawing');
  const hand = await handOver(page, 'mouse');
  const { seen } = await drawing(page, hand, 12);
  const pointerToInkMs = { p50: quantile(seen, 0.5), p95: quantile(seen, 0.95) };
  // A page with 2,000 strokes on it, each a short one.
  const session = await page.context().newCDPSession(page);
  const box = (await page.getByTestId('board').boundingBox())!;
  for (let n = 0; n < 2_000; n++) {
    const x = box.x + box.width * (0.04 + (n % 50) * 0.018);
    const y = box.y + box.height * (0.05 + Math.floor(n / 50) * 0.022);
    const at = (type: string, dx: number) =>
      session.send('Input.dispatchMouseEvent', {
        ...{ type: type as 'mouseMoved', x: x + dx, y: y + dx / 2, button: 'left' },
        ...{ buttons: type === 'mouseReleased' ? 0 : 1, clickCount: 1 },
      });
    await at('mousePressed', 0);
    await at('mouseMoved', 5);
    await at('mouseMoved', 10);
    await at('mouseReleased', 10);
  }
  const { frames } = await drawing(page, hand, 12);
  await close();
  const slow = frames.filter((ms) => ms > 20).length / Math.max(1, frames.length);
  console.log(`${seen.length} samples seen, ${frames.length} frames on a page of 2,000 strokes`);
  return { pointerToInkMs, slowFrameShare: slow };
};

/** What is lost of writing when the browser is killed, ms: the worst of some times. */
export const piecesLost = async (server: RealServer, times: number): Promise<number> => {
  let worst = 0;
  for (let turn = 0; turn < times; turn++) {
    const id = `lesson-bench-killed-${turn}`;
    const first = await openBrowser({ viewport: WIDE });
    await openBoard(first.page, server, id);
    await startRecording(first.page);
    const hand = await handOver(first.page, 'mouse', 10);
    const began = Date.now();
    for (let line = 0; line < 3; line++) await hand.write(wave(0.1 + line * 0.1), 4);
    const wroteMs = Date.now() - began;
    const session = await first.context.newCDPSession(first.page);
    // It never answers: the page is gone.
    void session.send('Page.crash').catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 500));
    await first.close();
    const second = await openBrowser({});
    await second.page.goto(`${server.url}/lessons/${id}/record`);
    await second.page.getByRole('button', { name: 'Keep what there is' }).click();
    const take = await server.takeWhen(id);
    await second.close();
    const text = readFileSync(
      join(server.home, 'media', `${trackOf(take, 'ink')!.id}.ink`),
      'utf8',
    );
    const { records, unread } = readInk(text);
    if (unread > 0) throw new Error('records are corrupt');
    const { strokes } = inkTrackOf(records);
    const keptMs = (strokes.at(-1)!.points.at(-1)!.atUs - strokes[0]!.beganUs) / 1000;
    worst = Math.max(worst, wroteMs - keptMs);
  }
  return worst;
};

/** The least likeness (SSIM) of preview and film at some places with ink being drawn. */
export const previewAndFilm = async (
  server: RealServer,
  folder: string,
  lessonId: string,
  places: readonly number[],
): Promise<number> => {
  const films = `/api/lessons/${lessonId}/films`;
  const { id } = await server.ask<{ id: string }>('POST', films, { size: '720p' });
  for (let state = ''; state !== 'done';) {
    await new Promise((resolve) => setTimeout(resolve, 300));
    const all = await server.ask<{ id: string; state: string }[]>('GET', films);
    state = all.find((film) => film.id === id)?.state ?? '';
    if (state === 'failed') throw new Error('the film failed');
  }
  const film = join(server.home, 'films', `${id}.mp4`);
  const { page, close } = await openBrowser({ viewport: { width: 1920, height: 1080 } });
  // As large as the film is, however small it is shown.
  const session = await page.context().newCDPSession(page);
  const metrics = { width: 1920, height: 1080, deviceScaleFactor: 2, mobile: false };
  await session.send('Emulation.setDeviceMetricsOverride', metrics);
  await page.goto(`${server.url}/lessons/${lessonId}/tidy`);
  const canvas = page.getByRole('img', { name: /^The film at/ });
  await canvas.waitFor();
  await page.waitForTimeout(1_500);
  const across = await canvas.evaluate((element) => (element as HTMLCanvasElement).width);
  if (across !== 1280) throw new Error(`the preview is ${across} px wide: not what the film is`);
  let least = 1;
  for (const [index, frame] of places.entries()) {
    const us = frameToUs(frame) + 2_000;
    await page.getByRole('slider', { name: /^Position in the film/ }).evaluate((slider, value) => {
      const input = slider as HTMLInputElement;
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(
        input,
        String(value),
      );
      input.dispatchEvent(new Event('input', { bubbles: true }));
      input.dispatchEvent(new Event('change', { bubbles: true }));
    }, us);
    await page.waitForTimeout(300);
    const url = await canvas.evaluate((element) => (element as HTMLCanvasElement).toDataURL());
    const preview = join(folder, `preview-${index}.png`);
    await writeFile(preview, Buffer.from(url.slice(url.indexOf(',') + 1), 'base64'));
    const stats = join(folder, `ssim-${index}.txt`);
    await run('ffmpeg', [
      ...['-i', film, '-i', preview, '-filter_complex'],
      `[0:v]select=eq(n\\,${frame}),scale=1280:720[a];[1:v]scale=1280:720,format=yuv420p[b];[a][b]ssim=f=${stats}`,
      ...['-frames:v', '1', '-f', 'null', '-'],
    ]);
    const likeness = Number(/All:([\d.]+)/.exec(readFileSync(stats, 'utf8'))?.[1] ?? 0);
    least = Math.min(least, likeness);
  }
  await close();
  return least;
};
