import { test, type Page } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { copyDemoHome, NO_READINGS, TABLE, WELCOME } from './prepared-homes';
import { RealServer } from './server';

export { TABLE, WELCOME };

/** A server with the demo's lessons in it, the film of the one that is handed out made. */
export interface Demo {
  readonly server: RealServer;
  shareLinks(): Promise<ShareLink[]>;
  /** Where a student watches the one that is handed out. */
  watchPath(): Promise<string>;
  /** Opens a page and waits until it says what it is for. */
  openAt(page: Page, path: string, ready: string): Promise<void>;
}

/** Sets up the demo before the first test of a file and removes it after the last. */
export const setDemo = (): Demo => {
  const demo = {
    server: null as unknown as RealServer,
    shareLinks: () => demo.server.ask<ShareLink[]>('GET', `/api/lessons/${WELCOME}/share-links`),
    watchPath: async () => `/w/${(await demo.shareLinks())[0]!.token}`,
    openAt: async (page: Page, path: string, ready: string) => {
      await page.goto(demo.server.url + path);
      await page.getByText(ready).first().waitFor();
    },
  };
  test.beforeAll(async () => {
    const home = await mkdtemp(join(tmpdir(), 'under-chalk-e2e-'));
    await copyDemoHome(home);
    demo.server = await RealServer.start({ home, env: NO_READINGS });
  });
  test.afterAll(() => demo.server.remove());
  return demo;
};
