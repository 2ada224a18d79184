/** A long PDF in the real app: how soon its first page is seen, how soon the next ones are, and what it takes. */
import {
  change,
  choosePracticeVoice,
  openBrowser,
  planLesson,
  WIDE,
} from '@under-chalk/e2e/browser';
import { pagesPdf } from '@under-chalk/e2e/made-materials';
import { renderersOf, residentMb } from '@under-chalk/e2e/memory';
import type { RealServer } from '@under-chalk/e2e/server';
import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const PAGES = 300;
const TURNS = 60;

export interface Paging {
  readonly firstPageMs: number;
  readonly turnMsP95: number;
  /** More than before, MB: the browser, and the process that has the PDF open. */
  readonly memoryMb: number;
}

/** Readers of materials that run on this machine. */
const readers = (): number[] => {
  const told = execFileSync('ps', ['-eo', 'pid,args']).toString();
  return told
    .split('\n')
    .filter((line) => /node .*reader-process/.test(line))
    .map((line) => Number(line.trim().split(' ')[0]));
};

export const pagingFigures = async (server: RealServer, folder: string): Promise<Paging> => {
  const file = join(folder, 'Three hundred.pdf');
  await writeFile(file, await pagesPdf(PAGES));
  const { page, close } = await openBrowser({ viewport: WIDE });
  try {
    await planLesson(page, server.url, 'Three hundred pages');
    await choosePracticeVoice(page);
    await page.waitForTimeout(1_500);
    await change(page, 'What to show', /^Materials/);
    await page.waitForTimeout(1_500);
    const renderers = await renderersOf(page);
    const browserMb = () => renderers.reduce((sum, pid) => sum + residentMb(pid), 0);
    const before = browserMb();

    // Seen is when the canvas shows something else than it did: looked at with every frame.
    await page.evaluate(() => {
      const looks = () => {
        const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="board"] canvas')!;
        const small = new OffscreenCanvas(64, 36);
        const context = small.getContext('2d')!;
        context.drawImage(canvas, 0, 0, 64, 36);
        const { data } = context.getImageData(0, 0, 64, 36);
        let sum = 0;
        for (let at = 0; at < data.length; at += 4)
          sum = (sum * 31 + data[at]! + data[at + 1]! * 7) >>> 0;
        return sum;
      };
      const changed = () => {
        const was = looks();
        const began = performance.now();
        return new Promise<number>((resolve) => {
          const look = () => {
            if (looks() !== was) resolve(performance.now() - began);
            else requestAnimationFrame(look);
          };
          requestAnimationFrame(look);
        });
      };
      Object.assign(window, { changed, looks });
    });
    type Probe = { changed: () => Promise<number>; looks: () => number };
    // The board's blank page goes when the PDF's first is turned to, and its picture comes.
    const blank = await page.evaluate(() => (window as unknown as Probe).looks());
    const began = Date.now();
    await page.getByLabel('Materials to bring in').setInputFiles(file);
    await page.waitForFunction(
      (was) => {
        const board = document.querySelector('[data-testid="board"]')?.getAttribute('aria-label');
        const { looks } = window as unknown as Probe;
        // White paper without a picture looks the same all over.
        return board?.includes('page 1 of 300') && looks() !== was && !looksPlain();
        function looksPlain() {
          const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="board"] canvas')!;
          const data = canvas
            .getContext('2d')!
            .getImageData(0, Math.round(canvas.height * 0.55), canvas.width, 1).data;
          for (let at = 4; at < data.length; at += 4)
            if (Math.abs(data[at]! - data[0]!) > 40) return false;
          return true;
        }
      },
      blank,
      { polling: 'raf', timeout: 60_000 },
    );
    const firstPageMs = Date.now() - began;
    await page.waitForTimeout(1_500);

    const turns: number[] = [];
    for (let turn = 0; turn < TURNS; turn++) {
      const ms = await page.evaluate(() => {
        const button = [...document.querySelectorAll<HTMLElement>('[role="button"], button')].find(
          (one) => one.getAttribute('aria-label') === 'Turn to the next page',
        )!;
        const { changed } = window as unknown as Probe;
        const seen = changed();
        button.click();
        return seen;
      });
      turns.push(ms);
      // As somebody does who skims.
      await page.waitForTimeout(700);
    }
    const sorted = [...turns].sort((a, b) => a - b);
    console.log(
      `turns: median ${Math.round(sorted[TURNS / 2]!)} ms, worst ${Math.round(sorted.at(-1)!)} ms`,
    );
    const readerMb = readers().reduce((sum, pid) => sum + residentMb(pid), 0);
    const grown = browserMb() - before;
    console.log(
      `memory: the browser ${Math.round(grown)} MB more, the reader ${Math.round(readerMb)} MB`,
    );
    return {
      firstPageMs,
      turnMsP95: Math.round(sorted[Math.floor(TURNS * 0.95)]!),
      memoryMb: Math.round(grown + readerMb),
    };
  } finally {
    await close();
  }
};
