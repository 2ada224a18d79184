#!/usr/bin/env node
/**
 * The browser tests against the real app. Arguments are passed to Playwright, except `--busy n`: it runs n processes that keep the
 * cores busy, to find tests that depend on time.
 */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { giveUp, root, run } from './lib/say.mjs';

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
const busyAt = chosen.indexOf('--busy');
const busy = busyAt < 0 ? 0 : Number(chosen.splice(busyAt, 2)[1]);
if (!Number.isInteger(busy)) giveUp('--busy wants a number of processes.');
const hogs = Array.from({ length: busy }, () =>
  spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }),
);
process.on('exit', () => hogs.forEach((hog) => hog.kill('SIGKILL')));

if (chosen.length > 0) process.exit(await playwright(...chosen));
const codes = [
  await playwright('--project', 'together', '--workers', '2'),
  await playwright('--project', 'alone', '--workers', '1'),
];
process.exit(Math.max(...codes));
