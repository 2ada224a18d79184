import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import {
  cp,
  mkdir,
  mkdtemp,
  readdir,
  readFile,
  rename,
  rm,
  stat,
  writeFile,
} from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RealServer, ROOT } from './server';

/**
 * Server data folders that are prepared once per build and day and copied for each spec file. `npm test` prepares them
 * while other steps run (`scripts/test-data.mjs`).
 */

/** The demo's lesson that is handed out. */
export const WELCOME = 'lesson-week-four-welcome';
/** The demo's lesson that isn't handed out. */
export const TABLE = 'lesson-reading-a-tide-table';

const MOST_MS = 240_000;
const HOMES = join(ROOT, '.build', 'homes');

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Cache key: the date, the server build and the demo media. */
const keyNow = async (): Promise<string> => {
  const hash = createHash('sha256').update(new Date().toISOString().slice(0, 10));
  hash.update(await readFile(join(ROOT, 'server/dist/.stamp')));
  const media = join(ROOT, 'demo/media');
  for (const name of (await readdir(media)).sort()) {
    hash.update(`${name} ${(await stat(join(media, name))).size}`);
  }
  return hash.digest('hex').slice(0, 16);
};

/** Whether the process that holds a lock is still running. */
const isHeld = async (lock: string): Promise<boolean> => {
  try {
    process.kill(Number(await readFile(lock, 'utf8')), 0);
    return true;
  } catch {
    return false;
  }
};

/** Path of a prepared folder. The first caller creates it, others wait. */
const prepared = async (name: string, make: (home: string) => Promise<void>): Promise<string> => {
  const kept = join(HOMES, `${name}-${await keyNow()}`);
  const [lock, making] = [join(HOMES, `${name}.lock`), join(HOMES, `${name}.making`)];
  await mkdir(HOMES, { recursive: true });
  while (!existsSync(kept)) {
    const isMine = await writeFile(lock, String(process.pid), { flag: 'wx' }).then(
      () => true,
      () => false,
    );
    if (isMine) {
      try {
        if (existsSync(kept)) break;
        for (const old of await readdir(HOMES)) {
          if (old.startsWith(`${name}-`) || old === `${name}.making`)
            await rm(join(HOMES, old), { recursive: true });
        }
        await mkdir(making);
        await make(making);
        await rename(making, kept);
      } finally {
        await rm(lock, { force: true });
      }
    } else if (await isHeld(lock)) await wait(100);
    else await rm(lock, { force: true });
  }
  return kept;
};

/** An empty server after its first start: database migrated, demo teacher set up. */
const makeEmpty = async (home: string): Promise<void> => {
  const server = await RealServer.start({ home });
  try {
    await server.stop();
  } finally {
    await server.kill();
  }
};

/** Names of the reading files of a lesson's tracks. */
const readingsOf = (lesson: Lesson): string[] =>
  lesson.takes.flatMap(({ tracks }) =>
    tracks.flatMap(({ id, kind }) => {
      if (kind === 'voice') return [`${id}.loudness`];
      if (kind === 'surface') return [`${id}.pictures`, `${id}.pointer`];
      return kind === 'camera' ? [`${id}.pictures`] : [];
    }),
  );

/** The demo data with its film rendered and all readings done, so that a copy starts idle. */
const makeDemo = async (home: string): Promise<void> => {
  const server = await RealServer.start({ home });
  try {
    const seed = [join(ROOT, 'server/dist/seed.js'), server.url, join(ROOT, 'demo/media')];
    const { status } = spawnSync(process.execPath, seed, { stdio: 'inherit' });
    if (status !== 0) throw new Error('the demo can’t be put in');
    const lessons = await server.ask<{ id: string }[]>('GET', '/api/lessons');
    const readings = (await Promise.all(lessons.map(({ id }) => server.lesson(id)))).flatMap(
      readingsOf,
    );
    const isDone = async () => {
      const [first] = await server.ask<ShareLink[]>('GET', `/api/lessons/${WELCOME}/share-links`);
      const films = await readdir(join(home, 'films')).catch(() => []);
      return (
        first?.film.state === 'done' &&
        films.some((name) => name.endsWith('.narrow.mp4')) &&
        readings.every((name) => existsSync(join(home, 'media', name)))
      );
    };
    for (const until = Date.now() + MOST_MS; !(await isDone()); await wait(200)) {
      if (Date.now() > until) throw new Error('the demo isn’t made');
    }
    await server.stop();
  } finally {
    await server.kill();
  }
};

const emptyHome = () => prepared('empty', makeEmpty);
const demoHome = () => prepared('demo', makeDemo);

/** Creates the folders that are missing. */
export const prepareHomes = async (): Promise<void> => {
  await emptyHome();
  await demoHome();
};

/** Copies the demo data into a folder. */
export const copyDemoHome = async (home: string) => cp(await demoHome(), home, { recursive: true });

/** Background analysis uses a core for seconds after each take, so it runs only in tests that need it. */
export const NO_READINGS = { UNDER_CHALK_READINGS: 'off' };

/** Starts a server without lessons, in its own folder. */
export const startEmpty = async ({ readings = false } = {}): Promise<RealServer> => {
  const home = await mkdtemp(join(tmpdir(), 'under-chalk-e2e-'));
  await cp(await emptyHome(), home, { recursive: true });
  return RealServer.start({ home, env: readings ? {} : NO_READINGS });
};
