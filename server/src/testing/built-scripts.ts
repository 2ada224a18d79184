import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const ROOT = join(__dirname, '..', '..', '..');

/** Absolute path of a program in `server/dist`; builds the server first if its sources have changed. For tests. */
export const builtScript = (file: string): string => {
  execFileSync(process.execPath, [join(ROOT, 'scripts', 'lib', 'build.mjs'), 'server'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  return join(ROOT, 'server', 'dist', file);
};
