import { expect, test, type Page } from '@playwright/test';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { RealServer, ROOT } from './server';

/** The demo's lessons: one that is handed out, and one that isn't. */
export const WELCOME = 'lesson-week-four-welcome';
export const TABLE = 'lesson-reading-a-tide-table';

/** A server with the demo's lessons in it, the film of the one that is handed out made. */
export interface Demo {
  readonly server: RealServer;
  handOuts(): Promise<HandOut[]>;
  /** Where a student watches the one that is handed out. */
  watchPath(): Promise<string>;
  /** Opens a page and waits until it says what it is for. */
  openAt(page: Page, path: string, ready: string): Promise<void>;
}

/** Sets up the demo before the first test of a file and removes it after the last. */
export const setDemo = (): Demo => {
  const demo = {
    server: null as unknown as RealServer,
    handOuts: () => demo.server.ask<HandOut[]>('GET', `/api/lessons/${WELCOME}/hand-outs`),
    watchPath: async () => `/w/${(await demo.handOuts())[0]!.token}`,
    openAt: async (page: Page, path: string, ready: string) => {
      await page.goto(demo.server.url + path);
      await page.getByText(ready).first().waitFor();
      await page.waitForTimeout(400);
    },
  };
  test.beforeAll(async () => {
    demo.server = await RealServer.start();
    const seeded = spawnSync(
      process.execPath,
      [join(ROOT, 'server/dist/seed.js'), demo.server.url, join(ROOT, 'demo/media')],
      { stdio: 'inherit' },
    );
    expect(seeded.status).toBe(0);
    await expect
      .poll(async () => (await demo.handOuts())[0]?.film.state, { timeout: 120_000 })
      .toBe('done');
  });
  test.afterAll(() => demo.server.remove());
  return demo;
};
