import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LessonRow } from '@under-chalk/core/contract/lessons';
import type { LessonStorage } from '@under-chalk/core/contract/storage';
import { run } from '@under-chalk/render';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-room-'));
  server = await startTestServer();
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const taken = async () => (await server.ask('GET', '/api/storage/used')).json;
const roomOf = async (id: string): Promise<LessonStorage> =>
  (await taken()).lessons.find((lesson: LessonStorage) => lesson.id === id);
const until = async (met: () => Promise<boolean>) => {
  for (let tries = 0; tries < 600; tries++) {
    if (await met()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it does not come to that');
};
const stateOf = async (id: string) => (await server.parts.films.get(id)).state;

/** A lesson of three seconds. */
const makeLesson = async (id: string) => {
  const path = join(folder, `${id}.mp4`);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=320x240:r=30:d=3', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p', path],
  ]);
  await server.ask('POST', '/api/lessons', { id, title: 'Tides', className: 'Navigation' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `${id}-take`, source: 'screen', practice: false },
    tracks: [{ id: `${id}-surface`, kind: 'surface' }],
  });
  const bytes = await readFile(path);
  await server.upload(`${id}-surface`, bytes);
  await server.ask('POST', `/api/takes/${id}-take/stop`, {});
  expect(await server.ingested(`${id}-take`)).toBe('ready');
  return bytes.length;
};

it('tells what each lesson takes up, and lets go what can be made again, and nothing else', async () => {
  const bytes = await makeLesson('lesson-spare');
  expect(await roomOf('lesson-spare')).toMatchObject({
    ...{ title: 'Tides', filmBytes: 0, spareBytes: 0, hasFilm: false },
  });
  expect((await roomOf('lesson-spare')).footageBytes).toBeGreaterThan(bytes / 2);
  const made = (await server.ask('POST', '/api/lessons/lesson-spare/films', { size: '720p' })).json;
  await until(async () => (await stateOf(made.id)) === 'done');
  const given = (
    await server.ask('POST', '/api/lessons/lesson-spare/share-links', { size: '1080p' })
  ).json;
  await until(async () => (await stateOf(given.film.id)) === 'done');
  // A voice without its room.
  const noiseReduced = server.parts.media.noiseReduced(
    { id: 'lesson-spare-surface', digest: 'x' },
    'gently',
  );
  await writeFile(noiseReduced.path, Buffer.alloc(1_000));
  // One that is given stays; what it was made smaller to doesn’t.
  const fitted = server.parts.media.filmFitted(given.film.id, 200_000);
  await writeFile(fitted, Buffer.alloc(500));
  const before = await roomOf('lesson-spare');
  const film = (await readFile(server.parts.media.film(made.id))).length;
  expect(before.spareBytes).toBe(film + 1_500);
  expect(before.filmBytes).toBeGreaterThan(film);
  const go = await server.ask('POST', '/api/lessons/lesson-spare/keep-used-footage');
  expect(go.status).toBe(200);
  expect((await roomOf('lesson-spare')).spareBytes).toBe(0);
  const gone = [server.parts.media.film(made.id), noiseReduced.path, fitted];
  expect(gone.map((path) => existsSync(path))).toEqual([false, false, false]);
  expect((await fetch(`${server.url}/api/watch/${given.token}/film.mp4`)).status).toBe(200);
  expect((await server.ask('GET', '/api/bin')).json).toEqual([]);
  expect((await server.ask('POST', '/api/lessons/lesson-none/keep-used-footage')).status).toBe(404);
});

it('keeps the film alone: the link plays on with its cover, the takes can be brought back', async () => {
  await makeLesson('lesson-alone');
  const keep = () => server.ask('POST', '/api/lessons/lesson-alone/keep-film-only');
  expect((await keep()).json.code).toBe('no-film-to-keep');
  const { json: given } = await server.ask('POST', '/api/lessons/lesson-alone/share-links', {
    size: '720p',
  });
  await until(async () => (await stateOf(given.film.id)) === 'done');
  expect((await keep()).status).toBe(200);
  expect(await roomOf('lesson-alone')).toMatchObject({ footageBytes: 0, hasFilm: true });
  const rowOf = async () => {
    const rows: LessonRow[] = (await server.ask('GET', '/api/lessons')).json;
    return rows.find(({ id }) => id === 'lesson-alone')!;
  };
  expect(await rowOf()).toMatchObject({ keptFilmId: given.film.id, pictureTakeId: null });
  // Gone for good, and with it whatever was held.
  expect((await server.ask('DELETE', '/api/bin/take/lesson-alone-take')).status).toBe(200);
  expect((await server.ask('POST', '/api/storage/empty-cache')).status).toBe(200);
  expect((await taken()).cacheBytes).toBe(0);
  const watch = `${server.url}/api/watch/${given.token}`;
  expect(((await (await fetch(watch)).json()) as { notePages: number }).notePages).toBe(0);
  const cover = await fetch(`${watch}/cover.jpg`);
  expect([cover.status, cover.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  expect((await cover.arrayBuffer()).byteLength).toBeGreaterThan(5_000);
  // The list has the same picture.
  const tile = await fetch(`${server.url}/api/films/${given.film.id}/cover.jpg`);
  expect([tile.status, tile.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  expect((await fetch(`${watch}/film.mp4`)).status).toBe(200);
  const { stream } = (await (await fetch(watch)).json()) as { stream: string };
  const ticket = server.parts.tickets.make({ token: given.token, version: stream });
  expect((await fetch(`${server.url}/api/media/${ticket}/picture/0.m4s`)).status).toBe(200);
});

it('keeps all of it where another lesson shows a take, and empties nothing while a film is made', async () => {
  await makeLesson('lesson-shared');
  await server.ask('POST', '/api/lessons/lesson-shared/duplicate', { id: 'lesson-copy' });
  const { json: made } = await server.ask('POST', '/api/lessons/lesson-shared/films', {
    size: '720p',
  });
  const refused = await server.ask('POST', '/api/storage/empty-cache');
  expect([refused.status, refused.json.code]).toEqual([409, 'storage-in-use']);
  await until(async () => (await stateOf(made.id)) === 'done');
  const kept = await server.ask('POST', '/api/lessons/lesson-shared/keep-film-only');
  expect(kept.json.code).toBe('take-elsewhere');
  expect((await roomOf('lesson-shared')).footageBytes).toBeGreaterThan(0);
  await mkdir(server.config.folders.chunks, { recursive: true });
  expect((await server.ask('POST', '/api/storage/empty-cache')).status).toBe(200);
});
