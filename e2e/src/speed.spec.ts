import { expect, test, type Page } from '@playwright/test';
import type { Watch } from '@under-chalk/core/contract/watch';
import { openBrowser, WIDE } from './browser';
import { setDemo } from './demo';
import { HOUR, tellOfHour } from './hour';

/** What may not take longer than people wait: on the lines that students have, and with an hour in hand. */

const demo = setDemo();
const { watchPath } = demo;

/** A line of 1 Mbit/s with 40 ms to the server and back, bytes a second. */
const LINE = 125_000;
const slowly = async (page: Page) => {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Network.enable');
  await devtools.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 40,
    downloadThroughput: LINE,
    uploadThroughput: LINE,
  });
};

/** Until the film's smaller pictures are there, which are made when it is done. */
const madeForSlowLines = (token: string) =>
  expect
    .poll(
      async () => {
        const { stream } = await demo.server.ask<Watch>('GET', `/api/watch/${token}`);
        const list = await fetch(
          `${demo.server.url}/api/watch/${token}/stream/${stream}/film.m3u8`,
        );
        return list.text();
      },
      { timeout: 120_000 },
    )
    .toContain('narrow.m3u8');

test(
  'a student on a slow line sees title and cover at once, and the film soon',
  { tag: '@alone' },
  async () => {
    const { page, close } = await openBrowser({});
    const path = await watchPath();
    await madeForSlowLines(path.split('/').pop()!);
    await slowly(page);
    await page.addInitScript(() => {
      const times = { cover: 0, playing: 0 };
      Object.assign(window, { times });
      const seen = (event: Event) => {
        if (event.target instanceof HTMLImageElement) times.cover ||= performance.now();
      };
      const plays = () => {
        times.playing ||= performance.now();
      };
      document.addEventListener('load', seen, true);
      document.addEventListener('playing', plays, true);
    });
    await page.goto(demo.server.url + path, { waitUntil: 'commit' });
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    const times = () =>
      page.evaluate(
        () => (window as unknown as { times: { cover: number; playing: number } }).times,
      );
    await expect.poll(async () => (await times()).playing, { timeout: 30_000 }).toBeGreaterThan(0);
    const { cover, playing } = await times();
    console.log(`cover ${Math.round(cover)} ms, moving ${Math.round(playing)} ms`);
    expect(cover).toBeGreaterThan(0);
    expect(cover).toBeLessThanOrEqual(1_500);
    // What the line needs at least for all that has to come first; the rest is the machine's, which is busy at times.
    const needed = await page.evaluate(
      (until) =>
        performance
          .getEntriesByType('resource')
          .filter((entry) => entry instanceof PerformanceResourceTiming)
          .filter(({ responseEnd }) => responseEnd <= until)
          // The second piece of the film may be there by then; it begins to move without.
          .filter(({ name }) => !/\/[1-9]\d*\.m4s/.test(name))
          .reduce((sum, { transferSize }) => sum + transferSize, 0),
      playing,
    );
    console.log(`${needed} bytes before it moves`);
    expect((needed / LINE) * 1_000).toBeLessThanOrEqual(3_380);
    expect(playing).toBeLessThanOrEqual(5_000);
    await close();
  },
);

/** From a press to what it does, ms. */
const MOST_CUT_MS = 100;
/** What `fixedWork` takes on the machine that the limit was set on, with nothing beside it, ms. */
const WORK_MS = 60;

/** The same work on every machine, about as long as a cut: tells how fast it is just now. Ms. */
const fixedWork = (): number => {
  const began = performance.now();
  for (let round = 0; round < 8; round++) {
    const rows = Array.from({ length: 5_000 }, (_, at) => ({ id: `row-${at}`, at: at * 7_919 }));
    rows.sort((a, b) => (a.at % 10_007) - (b.at % 10_007));
    JSON.parse(JSON.stringify(rows));
  }
  return performance.now() - began;
};

test(
  'an hour with fifteen hundred phrases opens, scrolls and is cut without waiting',
  { tag: '@alone' },
  async () => {
    const { page, close } = await openBrowser({ viewport: WIDE });
    await tellOfHour(page, demo.server);
    const devtools = await page.context().newCDPSession(page);
    await devtools.send('Performance.enable');
    const scriptS = async () =>
      (await devtools.send('Performance.getMetrics')).metrics.find(
        ({ name }) => name === 'ScriptDuration',
      )!.value;
    await page.goto(`${demo.server.url}/lessons/${HOUR}/tidy`);
    const list = page.getByRole('list', { name: 'Phrases of take 1' });
    await list.getByRole('button', { name: /^Phrase 1,/ }).waitFor();
    const opened = await scriptS();
    const phrases = Number(await list.getByRole('listitem').first().getAttribute('aria-setsize'));
    expect(phrases).toBeGreaterThanOrEqual(1_490);
    const nodes = () => page.evaluate(() => document.querySelectorAll('*').length);
    const atTop = await nodes();

    // From the press until the page has been drawn with what was cut.
    const cut = () =>
      page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const button = document.querySelector<HTMLElement>('[aria-label^="Cut phrase"]')!;
            const began = performance.now();
            const watch = new MutationObserver(() => {
              if (!document.querySelector('[aria-label^="Bring back"]')) return;
              watch.disconnect();
              requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - began)));
            });
            watch.observe(document.body, { subtree: true, childList: true });
            button.click();
          }),
      );
    // The best of a few, beside the best of the fixed work: another process has the machine at times.
    const [cuts, works]: [number[], number[]] = [[], []];
    const most = () => MOST_CUT_MS * Math.max(1, Math.min(...works) / WORK_MS);
    for (let tries = 0; tries === 0 || (tries < 8 && Math.min(...cuts) > most()); tries++) {
      if (tries > 0) {
        await page.getByRole('button', { name: /^Bring back/ }).click();
        await expect(page.getByRole('button', { name: /^Bring back/ })).toHaveCount(0);
      }
      works.push(await page.evaluate(fixedWork));
      cuts.push(await cut());
    }

    // The column follows the picture to the middle of the hour.
    await page
      .getByRole('slider', { name: 'Position in the film' })
      .evaluate((input: HTMLInputElement) => {
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
        set.call(input, String(Math.round(Number(input.max) / 2)));
        input.dispatchEvent(new Event('input', { bubbles: true }));
      });
    await expect(list.getByRole('button', { name: /^Phrase 75\d,/ }).first()).toBeVisible();
    const inTheMiddle = await nodes();
    console.log(
      `open ${opened.toFixed(2)} s of script, cut ${cuts.map(Math.round).join(', ')} ms beside ${works.map(Math.round).join(', ')} of work, ${atTop} and ${inTheMiddle} nodes`,
    );
    expect(opened).toBeLessThanOrEqual(2);
    expect(Math.min(...cuts)).toBeLessThanOrEqual(most());
    expect(Math.max(atTop, inTheMiddle)).toBeLessThan(3_000);
    await close();
  },
);
