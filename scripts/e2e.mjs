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

const playwright = (args, report) =>
  run(
    join(root, 'node_modules', '.bin', 'playwright'),
    ['test', '--config', 'e2e/playwright.config.ts', ...args],
    { env: { ...process.env, ...(report ? { UNDER_CHALK_TEST_REPORT: report } : {}) } },
  );

const chosen = process.argv.slice(2);
if (chosen.length > 0) process.exit(await playwright(chosen));
// Those that record against the clock by themselves; the others two at a time.
const reports = process.env.UNDER_CHALK_TEST_REPORTS;
const codes = [];
for (const [project, workers] of [
  ['beside', '2'],
  ['alone', '1'],
]) {
  const report = reports && join(reports, `playwright-${project}.json`);
  codes.push(await playwright(['--project', project, '--workers', workers], report));
}
process.exit(Math.max(...codes));
