import { run } from '@under-chalk/render';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(180_000);

let server: TestServer;
let folder: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-processes-'));
  server = await startTestServer();
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

/** The ffmpeg processes below this one, from `/proc` (proc(5)): id, name, state and parent are the first fields of `stat`. */
const ffmpegProcesses = async (): Promise<number> => {
  const all = await Promise.all(
    (await readdir('/proc'))
      .filter((name) => /^\d+$/.test(name))
      .map(async (id) => {
        const stat = await readFile(`/proc/${id}/stat`, 'utf8').catch(() => '');
        const [, name = '', , parent = ''] = /^\d+ \((.*)\) (\S) (\d+)/.exec(stat) ?? [];
        return { id, name, parent };
      }),
  );
  const below = new Set([String(process.pid)]);
  // Parents mostly have lower ids; twice is enough for a thread's child of a child.
  for (const { id, parent } of [...all, ...all]) if (below.has(parent)) below.add(id);
  return all.filter(({ id, name }) => name === 'ffmpeg' && below.has(id)).length;
};

it('imports, films, stills and covers together start few ffmpeg processes', async () => {
  const file = join(folder, 'film.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=30', '-f', 'lavfi', '-i', 'sine'],
    ...['-t', '4', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', file],
  ]);
  const bytes = await readFile(file);
  const importFilm = async (name: string) => {
    const tracks = ['surface', 'voice'].map((kind) => ({ id: `${name}-${kind}`, kind }));
    await server.ask('POST', '/api/lessons', { id: `lesson-${name}`, title: `Tides ${name}` });
    await server.ask('POST', `/api/lessons/lesson-${name}/takes`, {
      ...{ id: `take-${name}`, source: 'film', practice: false, tracks },
    });
    for (const { id } of tracks) await server.upload(id, bytes);
    await server.ask('POST', `/api/takes/take-${name}/stop`, {});
  };
  const ingested = (name: string) => server.ingested(`take-${name}`);
  const first = ['a1', 'a2', 'a3'];
  for (const name of first) await importFilm(name);
  expect(await Promise.all(first.map(ingested))).toEqual(['ready', 'ready', 'ready']);

  let most = 0;
  let over = false;
  const counting = (async () => {
    while (!over) {
      most = Math.max(most, await ffmpegProcesses());
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const later = ['b1', 'b2', 'b3', 'b4'];
  for (const name of later) await importFilm(name);
  const films = first.map(async (name) => {
    const path = `/api/lessons/lesson-${name}/films`;
    await server.ask('POST', path, { size: 'as-recorded' });
    while ((await server.ask('GET', path)).json[0].state !== 'done')
      await new Promise((resolve) => setTimeout(resolve, 100));
  });
  const stills = first.flatMap((name) =>
    Array.from({ length: 8 }, async (_, second) => {
      const path = `/api/takes/take-${name}/still?atUs=${second * 450_000}&size=large`;
      const { status } = await server.ask('GET', path);
      return status;
    }),
  );
  const covers = first.map(async (name) => {
    const { status } = await server.ask('GET', `/api/lessons/lesson-${name}/covers`);
    return status;
  });
  expect(new Set(await Promise.all([...stills, ...covers]))).toEqual(new Set([200]));
  await Promise.all(films);
  expect(await Promise.all(later.map(ingested))).toEqual(later.map(() => 'ready'));
  over = true;
  await counting;
  expect(most).toBeGreaterThan(1);
  expect(most).toBeLessThanOrEqual(5 * availableParallelism());
});
