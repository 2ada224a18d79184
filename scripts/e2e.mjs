#!/usr/bin/env node
/** The browser tests against the real app. Arguments go on to Playwright. */
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.ffmpeg();
await ready.chromium();
await ready.flite();
await ready.nginx();
const build = await import('./lib/build.mjs');
await build.app();
await build.server();
process.exit(
  await run(join(root, 'node_modules', '.bin', 'playwright'), [
    'test',
    '--config',
    'e2e/playwright.config.ts',
    ...process.argv.slice(2),
  ]),
);
