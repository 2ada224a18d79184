/** The server as a process: what it does when it can't begin, is killed, or has no room. No browser. */
import { expect, test } from '@playwright/test';
import { execFileSync, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { once } from 'node:events';
import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { smallDisk } from './failures';
import { startEmpty } from './prepared-homes';
import { RealServer, ROOT } from './server';

/** Starts the server and waits for it to end by itself. */
const tried = async (env: Record<string, string>) => {
  const child = spawn(process.execPath, [join(ROOT, 'server', 'dist', 'main.js')], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, UNDER_CHALK_DEMO: '1', ...env },
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.setEncoding('utf8').on('data', (text: string) => (said += text));
  }
  const timer = setTimeout(() => child.kill('SIGKILL'), 20_000);
  const [code] = (await once(child, 'close')) as [number | null];
  clearTimeout(timer);
  return { code, said };
};

const media = (folder: string, name: string, args: readonly string[]) => {
  const path = join(folder, name);
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, path]);
  return path;
};

/** Sends a file as the one track of a take, and has it processed. */
const bringIn = async (server: RealServer, takeId: string, bytes: Buffer, source = 'film') => {
  const trackId = `${takeId}-surface`;
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    id: takeId,
    source,
    practice: false,
    tracks: [{ id: trackId, kind: 'surface' }],
  });
  await server.send(trackId, bytes);
  await server.ask('POST', `/api/takes/${takeId}/stop`, {});
};

/** Takes all the room that a disk has left; others write to it meanwhile, and then there is less. */
const fill = (disk: string, ballast: string): void => {
  const { bavail, bsize } = statfsSync(disk);
  try {
    writeFileSync(ballast, Buffer.alloc(bavail * bsize));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
  }
};

/** How many ffmpegs that server has begun; those of tests that run beside this one aren't counted. */
const ffmpegsOf = (server: RealServer): number => {
  const home = `UNDER_CHALK_HOME=${server.home}`;
  const read = (id: string, file: string) => {
    try {
      return readFileSync(join('/proc', id, file), 'utf8');
    } catch {
      return '';
    }
  };
  return readdirSync('/proc').filter(
    (id) =>
      /^\d+$/.test(id) &&
      read(id, 'comm').trim() === 'ffmpeg' &&
      read(id, 'environ').split('\0').includes(home),
  ).length;
};

let folder: string;
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'under-chalk-process-'));
});
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('a second server on the same folder is told so, and touches nothing', async () => {
  const server = await startEmpty();
  try {
    const second = await tried({ UNDER_CHALK_HOME: server.home, PORT: '0' });
    expect(second.code).toBe(1);
    expect(second.said).toContain('Another Under Chalk is using this data folder.');
    expect(second.said).not.toContain('    at ');
    expect(statSync(server.home).mode & 0o777).toBe(0o700);
    // After a kill nothing is in the way.
    await server.kill();
    await server.up();
  } finally {
    await server.remove();
  }
});

test('a port that is taken is told before anything is begun', async () => {
  const taken = createServer().listen(0, '127.0.0.1');
  await once(taken, 'listening');
  const { port } = taken.address() as { port: number };
  const home = join(folder, 'taken');
  const second = await tried({ UNDER_CHALK_HOME: home, PORT: String(port) });
  taken.close();
  expect(second.code).toBe(1);
  expect(second.said).toContain('The port is in use.');
  expect(second.said).not.toContain('    at ');
  expect(existsSync(join(home, 'under-chalk.sqlite'))).toBe(false);
});

test('a folder that can’t be written to, and a full disk, are told in a sentence', async () => {
  const notAFolder = join(folder, 'a-file');
  writeFileSync(notAFolder, 'x');
  const unwritable = await tried({ UNDER_CHALK_HOME: join(notAFolder, 'home'), PORT: '0' });
  expect([unwritable.code, unwritable.said.includes('can’t be written to')]).toEqual([1, true]);
  expect(unwritable.said).not.toContain('    at ');
  const disk = smallDisk();
  test.skip(!disk, 'no small disk can be mounted here');
  try {
    const { bavail, bsize } = statfsSync(disk!.folder);
    writeFileSync(join(disk!.folder, 'ballast'), Buffer.alloc(bavail * bsize));
    const full = await tried({ UNDER_CHALK_HOME: join(disk!.folder, 'home'), PORT: '0' });
    expect([full.code, full.said.includes('The disk of the server is full.')]).toEqual([1, true]);
    expect(full.said).not.toContain('    at ');
  } finally {
    disk!.remove();
  }
});

test('odd bodies are told for what they are', async () => {
  const server = await startEmpty();
  try {
    const odd = await fetch(`${server.url}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Content-Encoding': 'gzip' },
      body: 'this is no gzip',
    });
    expect(odd.status).toBe(400);
  } finally {
    await server.remove();
  }
});

test('killed while a film that was brought in is encoded, the server ends its ffmpeg, and the next one makes it whole', async () => {
  const film = media(folder, 'long.mkv', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=30', '-t', '20'],
    ...['-c:v', 'mpeg4', '-q:v', '4'],
  ]);
  const server = await startEmpty();
  try {
    await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Killed' });
    await bringIn(server, 'take-killed', readFileSync(film));
    await expect.poll(() => ffmpegsOf(server), { timeout: 10_000 }).toBeGreaterThan(0);
    await server.kill();
    await expect.poll(() => ffmpegsOf(server), { timeout: 3_000 }).toBe(0);
    await server.up();
    const take = await server.takeWhen('lesson-one');
    expect(Math.abs(take.durationUs - 20_000_000)).toBeLessThan(50_000);
    const counted = execFileSync('ffprobe', [
      ...['-v', 'error', '-count_frames', '-show_entries', 'stream=nb_read_frames'],
      ...['-of', 'csv=p=0', server.trackFile(take, 'surface')],
    ]);
    expect(Number(counted.toString())).toBe(600);
  } finally {
    await server.remove();
  }
});

test('told to stop while a film is made, the server stops within ten seconds, and the next one makes it', async () => {
  const film = media(folder, 'hour.mp4', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=30', '-t', '20'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'],
  ]);
  const server = await startEmpty();
  const states = async () =>
    (
      await server.ask<{ state: string; progress: number }[]>(
        'GET',
        '/api/lessons/lesson-one/films',
      )
    ).map(({ state }) => state);
  try {
    await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Stopped' });
    await bringIn(server, 'take-stopped', readFileSync(film));
    await server.takeWhen('lesson-one');
    await server.ask('POST', '/api/lessons/lesson-one/films', { size: 'as-recorded' });
    await expect.poll(() => ffmpegsOf(server), { timeout: 60_000 }).toBeGreaterThan(0);
    expect(await server.stop()).toBeLessThan(10_000);
    await expect.poll(() => ffmpegsOf(server), { timeout: 3_000 }).toBe(0);
    await server.up();
    await expect.poll(states, { timeout: 120_000 }).toEqual(['done']);
  } finally {
    await server.remove();
  }
});

test('the disk fills while films are made: the server lives, and makes them when there is room', async () => {
  const disk = smallDisk();
  test.skip(!disk, 'no small disk can be mounted here');
  const film = media(folder, 'short.mp4', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=30', '-f', 'lavfi', '-i', 'sine'],
    ...['-t', '4', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
  ]);
  const server = await RealServer.start({ home: join(disk!.folder, 'home') });
  const ballast = join(disk!.folder, 'ballast');
  try {
    await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Full' });
    await bringIn(server, 'take-full', readFileSync(film));
    await server.takeWhen('lesson-one');
    const states = async () => {
      const films = await server.ask<{ id: string; state: string; problem: string | null }[]>(
        'GET',
        '/api/lessons/lesson-one/films',
      );
      return films;
    };
    const asked: { id: string }[] = [];
    for (const size of ['720p', 'finest', 'as-recorded']) {
      asked.push(await server.ask('POST', '/api/lessons/lesson-one/films', { size }));
    }
    fill(disk!.folder, ballast);
    // It answers for as long as the failures take.
    const isOver = async () => {
      expect((await fetch(`${server.url}/api/health`)).ok).toBe(true);
      return (await states()).every(({ state }) => state === 'done' || state === 'failed');
    };
    await expect.poll(isOver, { timeout: 120_000 }).toBe(true);
    expect((await states()).some(({ state }) => state === 'failed')).toBe(true);
    rmSync(ballast);
    for (const { id, state, problem } of await states()) {
      if (state === 'done') continue;
      expect([state, problem]).toEqual(['failed', 'disk-full']);
      await server.ask('POST', `/api/films/${id}/retry`);
    }
    await expect
      .poll(async () => (await states()).every(({ state }) => state === 'done'), {
        timeout: 180_000,
      })
      .toBe(true);
    expect(asked).toHaveLength(3);
  } finally {
    chmodSync(server.home, 0o700);
    await server.remove();
    disk!.remove();
  }
});
