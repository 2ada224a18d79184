/** Makes sure that what is needed is there: Node, the packages, ffmpeg, Chromium. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, has, must, root, run, say } from './say.mjs';

const LEAST_NODE = [20, 11];

export const node = () => {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < LEAST_NODE[0] || (major === LEAST_NODE[0] && minor < LEAST_NODE[1])) {
    giveUp(
      `Under Chalk needs Node.js ${LEAST_NODE.join('.')} or newer; this is ${process.versions.node}.`,
    );
  }
};

/** Installs the packages of the lock file, once for each lock file. */
export const packages = async () => {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.under-chalk-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing the packages. The database is compiled on the way: two to four minutes, once.');
  await must(
    'npm',
    ['ci', '--no-progress', '--loglevel=error'],
    'The packages could not be installed. Check the connection to the npm registry and run it again.',
  );
  writeFileSync(stamp, lock);
};

/** Installs a Debian package where that may be done, else tells the command. */
const debian = async (program, names, why) => {
  if (has(program)) return;
  const command = `apt-get install -y --no-install-recommends ${names.join(' ')}`;
  const may = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (may) {
    say(`Installing ${names.join(' and ')}: ${why}.`);
    const quiet = { stdio: ['ignore', 'ignore', 'inherit'] };
    await run('apt-get', ['update', '-qq'], quiet);
    await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...names], quiet);
    if (has(program)) return;
  }
  giveUp(
    `${names.join(' and ')} is missing: ${why}. Install it (on Debian: sudo ${command}; on macOS: brew install ${names[0]}) and run this again.`,
  );
};

export const ffmpeg = () => debian('ffmpeg', ['ffmpeg'], 'films are made with it');
export const chromium = () =>
  debian(process.env.CHROMIUM ?? 'chromium', ['chromium'], 'the browser tests are driven in it');
export const nginx = () =>
  debian('nginx', ['nginx-light', 'openssl'], 'a server before ours is tried with it');
export const flite = () => debian('flite', ['flite'], 'the test voice is spoken by it');
