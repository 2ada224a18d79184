#!/usr/bin/env node
/** The browser tests against the real app. Arguments go on to Playwright. */
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.programs('ffmpeg', 'chromium', 'flite', 'nginx', 'pocketsphinx', 'espeak-ng');
const build = await import('./lib/build.mjs');
await build.app();
await build.server();

const playwright = (...args) =>
  run(join(root, 'node_modules', '.bin', 'playwright'), [
    ...['test', '--config', 'e2e/playwright.config.ts', ...args],
  ]);

const chosen = process.argv.slice(2);
if (chosen.length > 0) process.exit(await playwright(...chosen));
const codes = [
  await playwright('--project', 'together', '--workers', '2'),
  await playwright('--project', 'alone', '--workers', '1'),
];
process.exit(Math.max(...codes));
