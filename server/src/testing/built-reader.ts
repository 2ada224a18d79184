import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';

const ROOT = join(__dirname, '..', '..', '..');

/** The program of the process that opens materials, built from its sources: it is run by plain Node. For tests. */
export const buildReader = (): { script: string; remove(): Promise<void> } => {
  // Inside of the project, so that it finds its packages.
  const folder = mkdtempSync(join(ROOT, 'node_modules', '.reader-'));
  const build = join(ROOT, 'scripts', 'lib', 'build.mjs');
  const code = `await (await import(process.argv[1])).reader(process.argv[2])`;
  execFileSync(process.execPath, ['--input-type=module', '-e', code, build, folder]);
  return {
    script: join(folder, 'reader-process.mjs'),
    remove: () => rm(folder, { recursive: true, force: true }),
  };
};
