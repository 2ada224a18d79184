import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const ROOT = join(__dirname, '..', '..', '..');

/**
 * A program of the built server, by its path in `server/dist`: programs that run beside the server are run by plain
 * Node. The server is built first where its sources have changed. For tests.
 */
export const builtScript = (file: string): string => {
  execFileSync(process.execPath, [join(ROOT, 'scripts', 'lib', 'build.mjs'), 'server'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  return join(ROOT, 'server', 'dist', file);
};
