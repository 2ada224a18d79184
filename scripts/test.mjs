#!/usr/bin/env node
/** `npm test`: everything, from a fresh clone. `npm test -- --quick` leaves out the browser. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { must, root, run, say } from './lib/say.mjs';
import { addedUp, jestSums, playwrightSums, sumsInLines } from './lib/sums.mjs';

const quick = process.argv.includes('--quick');
const bin = (name) => join(root, 'node_modules', '.bin', name);
const began = Date.now();
const step = async (what, program, args) => {
  say(`${what}…`);
  await must(program, args, `${what}: failed; what is wrong stands above.`);
  say(`${what}: fine, ${Math.round((Date.now() - began) / 1000)} s since the start.`);
};

ready.node();
// Fetched while the packages are installed and read over.
const programs = ready.programs(
  ...['ffmpeg', 'flite', 'pocketsphinx', 'espeak-ng'],
  ...(quick ? [] : ['chromium', 'nginx']),
);
await ready.packages();
await step('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
await step('Circles', process.execPath, ['scripts/circles.mjs']);
const types = async () => {
  for (const project of [
    'tsconfig.json',
    'e2e/tsconfig.json',
    'app/tsconfig.json',
    'app/workers/tsconfig.json',
  ]) {
    await step(`Types of ${project}`, bin('tsc'), ['-p', project, '--noEmit']);
  }
};
// Beside one another: each keeps one core busy.
await Promise.all([step('Lint', bin('eslint'), ['.', '--max-warnings', '0']), types()]);
const reports = join(root, '.build', 'test-reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
const jestReport = join(reports, 'jest.json');

await programs;
say('Unit and server tests…');
let code = await run(bin('jest'), [
  ...['--config', 'jest.config.mjs', '--maxWorkers', '2'],
  ...['--json', '--outputFile', jestReport],
]);
if (code === 0 && !quick) {
  say('Browser tests…');
  code = await run(process.execPath, ['scripts/e2e.mjs'], {
    env: { ...process.env, UNDER_CHALK_TEST_REPORTS: reports },
  });
}
const sums = addedUp([
  jestSums(jestReport),
  ...['beside', 'alone'].map((project) =>
    playwrightSums(join(reports, `playwright-${project}.json`)),
  ),
]);
say(`${Math.round((Date.now() - began) / 60_000)} minutes since the start.`);
console.log(sumsInLines(sums).join('\n'));
if (sums.passed === 0 && code === 0) {
  console.error('No test was run.');
  code = 1;
}
process.exit(code !== 0 || sums.failed.length > 0 ? 1 : 0);
