import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { RealServer, ROOT } from './server';

/** The demo's lesson that is handed out. */
export const WELCOME = 'lesson-week-four-welcome';

/** Nothing written for so long, ms: readings of pictures write when they are done, and else every copy would do them anew. */
const QUIET_MS = 20_000;

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Names the data that a demo put in today by this server comes to. */
const keyNow = async (): Promise<string> => {
  const hash = createHash('sha256').update(new Date().toISOString().slice(0, 10));
  hash.update(await readFile(join(ROOT, 'server/dist/.stamp')));
  const media = join(ROOT, 'demo/media');
  for (const name of (await readdir(media)).sort()) {
    hash.update(`${name} ${(await stat(join(media, name))).size}`);
  }
  return hash.digest('hex').slice(0, 16);
};

/** When something in a folder was last written, ms. What goes away while it is looked at doesn't count. */
const lastWritten = async (folder: string): Promise<number> => {
  const names = await readdir(folder, { recursive: true });
  const times = names.map((name) => stat(join(folder, name)).then(({ mtimeMs }) => mtimeMs));
  const told = await Promise.allSettled(times);
  return Math.max(0, ...told.map((one) => (one.status === 'fulfilled' ? one.value : 0)));
};

/** Puts the demo in, and ends when its film is made and the server has nothing more to do. */
const putIn = async (home: string): Promise<void> => {
  await mkdir(home, { recursive: true });
  const server = await RealServer.start({ home });
  try {
    const seed = [join(ROOT, 'server/dist/seed.js'), server.url, join(ROOT, 'demo/media')];
    const { status } = spawnSync(process.execPath, seed, { stdio: 'inherit' });
    if (status !== 0) throw new Error('the demo can’t be put in');
    const until = Date.now() + 220_000;
    const isMade = async () => {
      const [first] = await server.ask<HandOut[]>('GET', `/api/lessons/${WELCOME}/hand-outs`);
      return first?.film.state === 'done';
    };
    while (!(await isMade()) || Date.now() - (await lastWritten(home)) < QUIET_MS) {
      if (Date.now() > until) throw new Error('the demo’s film isn’t made');
      await wait(300);
    }
    await server.stop();
  } finally {
    await server.kill();
  }
};

/** Whether the process that holds a lock lives. */
const isHeld = async (lock: string): Promise<boolean> => {
  try {
    process.kill(Number(await readFile(lock, 'utf8')), 0);
    return true;
  } catch {
    return false;
  }
};

/**
 * Fills a folder with the data of a server that has the demo in it, its film made. The demo is put in once for all tests of a
 * day and a build, and copied from then on.
 */
export const demoHome = async (home: string): Promise<void> => {
  const all = join(ROOT, '.build', 'demo');
  const kept = join(all, await keyNow());
  const lock = join(all, 'lock');
  await mkdir(all, { recursive: true });
  while (!existsSync(kept)) {
    const isMine = await writeFile(lock, String(process.pid), { flag: 'wx' }).then(
      () => true,
      () => false,
    );
    if (isMine) {
      try {
        for (const old of await readdir(all)) {
          if (join(all, old) !== lock) await rm(join(all, old), { recursive: true });
        }
        await putIn(join(all, 'making'));
        await rename(join(all, 'making'), kept);
      } finally {
        await rm(lock, { force: true });
      }
    } else if (await isHeld(lock)) await wait(300);
    else await rm(lock, { force: true });
  }
  await cp(kept, home, { recursive: true });
};
