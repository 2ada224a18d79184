import { test } from '@playwright/test';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startEmpty } from './prepared-homes';
import type { RealServer } from './server';

/** What the tests of one file share: a server of their own, and a folder for what they make. */
export interface Stage {
  readonly server: RealServer;
  readonly folder: string;
}

/** Starts the server before the first test of a file and removes it after the last. @param options `readings`: analyse takes in the background */
export const setStage = (options: { readings?: boolean } = {}): Stage => {
  const stage = { server: null as unknown as RealServer, folder: '' };
  test.beforeAll(async () => {
    stage.server = await startEmpty(options);
    stage.folder = await mkdtemp(join(tmpdir(), 'under-chalk-stage-'));
  });
  test.afterAll(async () => {
    await stage.server.remove();
    await rm(stage.folder, { recursive: true, force: true });
  });
  return stage;
};
