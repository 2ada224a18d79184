import { spawn, spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The folder of the repository. */
export const root = fileURLToPath(new URL('../..', import.meta.url));

/** Tells what is being done. */
export const say = (text) => console.log(`· ${text}`);

/** Ends with a sentence that tells what to do. */
export const giveUp = (sentence) => {
  console.error(`\n${sentence}\n`);
  process.exit(1);
};

/** Whether a program is there. */
export const has = (program) =>
  spawnSync(program, ['-version'], { stdio: 'ignore' }).error === undefined;

/**
 * Runs a program to its end, its output passed on, and resolves with its exit code.
 *
 * @param {string} program
 * @param {readonly string[]} args
 * @param {import('node:child_process').SpawnOptions} [options]
 */
export const run = (program, args, options = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: root, stdio: 'inherit', ...options });
    child.once('error', reject);
    child.once('close', (code) => resolve(code ?? 1));
  });

/** Runs a program and gives up with a sentence when it fails. */
export const must = async (program, args, sentence, options) => {
  if ((await run(program, args, options)) !== 0) giveUp(sentence);
};
