#!/usr/bin/env node
/** `npm test`: everything, from a fresh clone. `npm test -- --quick` leaves out the browser. */
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { must, root, say } from './lib/say.mjs';

const quick = process.argv.includes('--quick');
const bin = (name) => join(root, 'node_modules', '.bin', name);
const began = Date.now();
const step = async (what, program, args) => {
  say(`${what}…`);
  await must(program, args, `${what}: failed; what is wrong stands above.`);
  say(`${what}: fine, ${Math.round((Date.now() - began) / 1000)} s since the start.`);
};

ready.node();
await ready.packages();
await ready.ffmpeg();
if (!quick) {
  await ready.chromium();
  await ready.flite();
}
await step('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
await step('Lint', bin('eslint'), ['.', '--max-warnings', '0']);
for (const project of [
  'tsconfig.json',
  'e2e/tsconfig.json',
  'app/tsconfig.json',
  'app/workers/tsconfig.json',
]) {
  await step(`Types of ${project}`, bin('tsc'), ['-p', project, '--noEmit']);
}
await step('Unit and server tests', bin('jest'), [
  '--config',
  'jest.config.mjs',
  '--maxWorkers',
  '2',
]);
if (!quick) await step('Browser tests', process.execPath, ['scripts/e2e.mjs']);
say('All tests passed.');
