/** Makes sure that what is needed is there: Node, the packages, ffmpeg, Chromium. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, has, must, root, run, say } from './say.mjs';

const LEAST_NODE = [20, 19];

export const node = () => {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < LEAST_NODE[0] || (major === LEAST_NODE[0] && minor < LEAST_NODE[1])) {
    giveUp(
      `Under Chalk needs Node.js ${LEAST_NODE.join('.')} or newer; this is ${process.versions.node}.`,
    );
  }
};

/** Runs an installation step once per lock file. */
const oncePerLock = async (stampName, install) => {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', stampName);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  await install();
  writeFileSync(stamp, lock);
};

/** Installs packages without running install scripts: enough for builds, types and lint. */
export const unpacked = () =>
  oncePerLock('.under-chalk-unpacked', async () => {
    say('Installing the packages: one to two minutes, once.');
    await must(
      'npm',
      ['ci', '--ignore-scripts', '--prefer-offline', '--no-progress', '--loglevel=error'],
      'The packages could not be installed. Check the connection to the npm registry and run it again.',
    );
  });

/**
 * Runs the install scripts that `allowScripts` allows. After {@link unpacked}.
 *
 * @param {string} [optimisation] of the C compiler, in place of `-O3`: `-O1` compiles SQLite in a third of the time
 */
export const compiled = (optimisation) =>
  oncePerLock('.under-chalk-lock', async () => {
    say('Compiling the database: one to two minutes, once.');
    const { allowScripts } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
    const allowed = Object.keys(allowScripts).filter((name) => allowScripts[name]);
    await must(
      'npm',
      ['rebuild', '--loglevel=error', ...allowed],
      'The database could not be compiled: it needs python3, make and a C++ compiler.',
      // Put behind the compiler's other options, where the last one counts.
      optimisation
        ? { env: { ...process.env, CFLAGS: optimisation, CXXFLAGS: optimisation } }
        : undefined,
    );
  });

/** Installs the packages of the lock file, once for each lock file. */
export const packages = async () => {
  await unpacked();
  await compiled();
};

/** Programs that are needed, the Debian packages they are in, and what for. */
const PROGRAMS = {
  ffmpeg: { program: 'ffmpeg', packages: ['ffmpeg'], why: 'films are made with it' },
  chromium: {
    program: process.env.CHROMIUM ?? 'chromium',
    packages: ['chromium'],
    why: 'the browser tests are driven in it',
  },
  nginx: {
    program: 'nginx',
    packages: ['nginx-light', 'openssl'],
    why: 'a server before ours is tried with it',
  },
  flite: { program: 'flite', packages: ['flite'], why: 'the test voice is spoken by it' },
  'espeak-ng': {
    program: 'espeak-ng',
    packages: ['espeak-ng'],
    why: 'captions in other languages than English are put in time with a voice by its likeness',
    optional: true,
  },
  pocketsphinx: {
    program: 'pocketsphinx_batch',
    packages: ['pocketsphinx', 'pocketsphinx-en-us', 'flite'],
    why: 'captions are put in time with a voice by it',
    // Whoever starts the app can do without: the captions’ page says so.
    optional: true,
  },
};

/**
 * Installs the Debian packages of what is missing, all in one, where that may be done; else tells the command.
 *
 * @param {readonly (keyof typeof PROGRAMS)[]} names
 */
export const programs = async (...names) => {
  const missing = () => names.map((name) => PROGRAMS[name]).filter(({ program }) => !has(program));
  const wanted = missing().flatMap(({ packages: ofIt }) => ofIt);
  if (wanted.length === 0) return;
  const may = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (may) {
    for (const { packages: ofIt, why } of missing())
      say(`Installing ${ofIt.join(' and ')}: ${why}.`);
    const quiet = { stdio: ['ignore', 'ignore', 'inherit'] };
    await run('apt-get', ['update', '-qq'], quiet);
    const install = ['install', '-y', '-qq', '--no-install-recommends', ...wanted];
    await run('apt-get', install, quiet);
  }
  for (const { packages: ofIt, why, optional } of missing())
    if (optional) say(`${ofIt.join(' and ')} can’t be had: ${why}. All else works.`);
  const [left] = missing().filter(({ optional }) => !optional);
  if (!left) return;
  const command = `apt-get install -y --no-install-recommends ${left.packages.join(' ')}`;
  giveUp(
    `${left.packages.join(' and ')} is missing: ${left.why}. Install it (on Debian: sudo ${command}; on macOS: brew install ${left.packages[0]}) and run this again.`,
  );
};
