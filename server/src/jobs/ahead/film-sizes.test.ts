import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { run } from '@under-chalk/render';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../../testing/built-scripts';
import { startTestServer, type TestServer } from '../../testing/test-server';

jest.setTimeout(150_000);
let ahead: string;
let server: TestServer;
let folder: string;
beforeAll(async () => {
  ahead = builtScript('ahead-thread.mjs');
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-sizes-'));
  server = await startTestServer({ aheadScript: ahead });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

/** A small picture: how pieces differ is the same as in a large one. */
const SIZE: PictureSize = 'as-recorded';

/** A lesson of footage that was brought in: nothing of its film was made while it was recorded. */
const lessonOf = async (id: string, picture: string, seconds: number): Promise<void> => {
  const path = join(folder, `${id}.mp4`);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `${picture},format=yuv420p`, '-t', `${seconds}`, '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '30', path],
  ]);
  await server.ask('POST', '/api/lessons', { id, title: 'Reading a tide table' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'screen', practice: false },
    tracks: [{ id: `take-${id}-surface`, kind: 'surface' }],
  });
  await server.upload(`take-${id}-surface`, await readFile(path));
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  expect(await server.ingested(`take-${id}`)).toBe('ready');
};
const sizeOf = async (id: string) =>
  (await server.ask('GET', `/api/lessons/${id}/made/${SIZE}`)).json as {
    made: { bytes: number } | null;
    looking: boolean;
  };
const toldOf = async (id: string) => {
  for (;;) {
    const told = await sizeOf(id);
    if (!told.looking) return told.made;
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
};
const pieces = async () =>
  (await readdir(server.config.folders.chunks).catch(() => [])).filter((name) =>
    name.endsWith('.mp4'),
  ).length;
const filmOf = async (id: string) => {
  const { json } = await server.ask('POST', `/api/lessons/${id}/films`, { size: SIZE });
  for (;;) {
    const films = (await server.ask('GET', `/api/lessons/${id}/films`)).json as {
      id: string;
      state: string;
      bytes: number;
    }[];
    const film = films.find((one) => one.id === json.id)!;
    if (film.state === 'done') return film;
    if (film.state === 'failed') throw new Error('it failed');
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
};

it('is known to a tenth from a few pieces, made for as long as somebody asks', async () => {
  await lessonOf('lesson-even', 'testsrc2=s=640x360:r=30', 45);
  expect(await sizeOf('lesson-even')).toEqual({ made: null, looking: true });
  const made = await toldOf('lesson-even');
  const few = await pieces();
  const film = await filmOf('lesson-even');
  expect(few).toBeLessThan((await pieces()) * 0.6);
  expect(Math.abs(made!.bytes - film.bytes) / film.bytes).toBeLessThan(0.1);
});

it('takes more pieces where they are unlike, and is right all the same', async () => {
  // Still for two thirds, and then noise.
  await lessonOf(
    'lesson-uneven',
    `color=c=0x1c252b:s=640x360:r=30,noise=alls=40:allf=t:enable='gt(t,12)'`,
    18,
  );
  const made = await toldOf('lesson-uneven');
  const film = await filmOf('lesson-uneven');
  expect(Math.abs(made!.bytes - film.bytes) / film.bytes).toBeLessThan(0.1);
});

it('isn’t looked for where there is nothing, nor beside a film that is being made', async () => {
  await server.ask('POST', '/api/lessons', { id: 'lesson-none', title: 'Nothing yet' });
  expect(await sizeOf('lesson-none')).toEqual({ made: null, looking: false });
  await lessonOf('lesson-busy', 'testsrc2=s=640x360:r=30', 20);
  await server.ask('POST', `/api/lessons/lesson-busy/films`, { size: '1080p' });
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(await sizeOf('lesson-busy')).toMatchObject({ looking: false });
});
