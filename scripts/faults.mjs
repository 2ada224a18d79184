#!/usr/bin/env node
/**
 * `npm run test:faults [part of a name]`: injects faults one at a time and runs the tests that should find each. Fails if
 * one is missed. Every file is restored, also after an interrupt.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { FAULTS } from './faults/faults.mjs';
import * as ready from './lib/ready.mjs';
import { giveUp, root, say } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.programs('ffmpeg', 'chromium');

const wanted = process.argv[2] ?? '';
const chosen = FAULTS.filter(({ name }) => name.includes(wanted));
if (chosen.length === 0) giveUp(`No fault is called “${wanted}”.`);

const quiet = {
  cwd: root,
  stdio: ['ignore', 'pipe', 'pipe'],
  encoding: 'utf8',
  maxBuffer: 1 << 28,
};
const node = (...args) => spawnSync(process.execPath, args, quiet);
const bin = (name) => join(root, 'node_modules', '.bin', name);

/** Runs the tests of a fault. @returns whether they pass, and their output */
const test = ({ suites, spec }) => {
  if (suites) {
    const of = ['--config', 'jest.config.mjs', '--runTestsByPath', '--maxWorkers', '2'];
    const { status, stderr } = spawnSync(bin('jest'), [...of, ...suites], quiet);
    return { passes: status === 0, told: stderr };
  }
  const built = node('scripts/lib/build.mjs', 'app', 'server');
  if (built.status !== 0) return { passes: true, told: `it can’t be built: ${built.stderr}` };
  const [file, title] = spec;
  const { status, stdout } = spawnSync(
    bin('playwright'),
    ['test', '--config', 'e2e/playwright.config.ts', `${file}.spec.ts`, '--grep', title],
    quiet,
  );
  return { passes: status === 0, told: stdout };
};

// Exit normally on a signal so that the file is restored.
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => process.exit(1));
const missed = [];
for (const fault of chosen) {
  const path = join(root, fault.file);
  const whole = readFileSync(path, 'utf8');
  if (whole.split(fault.from).length !== 2)
    giveUp(`${fault.file} has not once what “${fault.name}” changes.`);
  const putBack = () => writeFileSync(path, whole);
  process.once('exit', putBack);
  writeFileSync(
    path,
    whole.replace(fault.from, () => fault.to),
  );
  const began = Date.now();
  const { passes, told } = test(fault);
  putBack();
  process.off('exit', putBack);
  // A syntax error proves nothing.
  const isBroken = /SyntaxError|Test suite failed to run|it can’t be built/.test(told);
  const found = !passes && !isBroken;
  if (!found) missed.push(fault.name);
  const seconds = Math.round((Date.now() - began) / 1000);
  say(`${found ? 'found' : isBroken ? 'BROKEN' : 'MISSED'}, ${seconds} s: ${fault.name}`);
  if (isBroken) console.error(told.slice(-2_000));
}
say(`${chosen.length - missed.length} of ${chosen.length} faults were found.`);
process.exit(missed.length === 0 ? 0 : 1);
