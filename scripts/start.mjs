#!/usr/bin/env node
/**
 * `npm start`: everything from a fresh clone to the running app with demo data.
 * `npm start -- --own`: the teacher's own, with a passphrase and nothing in it.
 */
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { giveUp, root, run, say } from './lib/say.mjs';

const own = process.argv.includes('--own');
ready.node();
await ready.packages();
await ready.programs('ffmpeg', 'pocketsphinx', 'espeak-ng');
const build = await import('./lib/build.mjs');
await build.app();
await build.server();

const port = process.env.PORT ?? '4750';
const home = process.env.UNDER_CHALK_HOME ?? join(root, 'data', ...(own ? [] : ['demo']));
const server = spawn(process.execPath, [join(root, 'server', 'dist', 'main.js')], {
  cwd: root,
  stdio: 'inherit',
  env: {
    ...process.env,
    PORT: port,
    UNDER_CHALK_HOME: home,
    UNDER_CHALK_DEMO: own ? '0' : '1',
    NODE_ENV: 'production',
  },
});
server.once('close', (code) => process.exit(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));

const isFree = (candidate) =>
  new Promise((resolve) => {
    const probe = createServer()
      .once('error', () => resolve(false))
      .listen(candidate, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

/** The port that was asked for (PRACTICE_PORT), or the first free one from ten above the app's; null where there is none. */
const practicePort = async () => {
  const asked = Number(process.env.PRACTICE_PORT ?? 0);
  const from = Number(port) + 10;
  const candidates = asked ? [asked] : Array.from({ length: 20 }, (_, index) => from + index);
  for (const candidate of candidates) if (await isFree(candidate)) return candidate;
  return null;
};

/** Starts the practice course site, connected, and with something in its course. */
const startPractice = async (origin) => {
  const ownPort = await practicePort();
  if (ownPort === null)
    return say('The practice course site finds no free port: choose one with PRACTICE_PORT=4770.');
  const address = `http://127.0.0.1:${ownPort}`;
  const practice = spawn(
    process.execPath,
    [
      ...[join(root, 'server', 'dist', 'practice-site.js'), String(ownPort), origin],
      join(home, 'practice-course-site.json'),
    ],
    { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] },
  );
  process.once('exit', () => practice.kill());
  for (let tries = 0; tries < 50; tries++) {
    const up = await fetch(`${address}/join.json`).then(
      (response) => response.ok,
      () => false,
    );
    if (up) {
      const furnish = join(root, 'server', 'dist', 'practice-furnish.js');
      if ((await run(process.execPath, [furnish, address, origin])) !== 0)
        say('Nothing could be put into the practice course; the site itself works.');
      return say(`The practice course site: open ${address}/.`);
    }
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  say('The practice course site does not answer; the app itself works.');
};

if (!own) {
  const origin = `http://127.0.0.1:${port}`;
  let up = false;
  for (let tries = 0; tries < 150 && !up; tries++) {
    up = await fetch(`${origin}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (!up) await new Promise((resolve) => setTimeout(resolve, 200));
  }
  if (!up) giveUp('The server does not answer; what is wrong stands above.');
  const seeded = await run(process.execPath, [
    join(root, 'server', 'dist', 'seed.js'),
    origin,
    join(root, 'demo', 'media'),
  ]);
  await startPractice(origin);
  if (seeded !== 0) say('The demo lessons could not be put in; the app itself works.');
  say(`Demo: open http://localhost:${port}/ (Ctrl+C stops it).`);
}
