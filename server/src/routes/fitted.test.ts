import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FitState } from '@under-chalk/core/contract/films';
import { run } from '@under-chalk/render';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(200_000);
const SECONDS = 8;
const LESSON = 'lesson-fitted';
let server: TestServer;
let folder: string;
let filmId: string;

const until = async <T>(ask: () => Promise<T>, met: (answer: T) => boolean): Promise<T> => {
  for (let tries = 0; tries < 3_000; tries++) {
    const answer = await ask();
    if (met(answer)) return answer;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it does not come to that');
};
const filmState = async () => (await server.parts.films.get(filmId)).state;
const fitted = async (mostBytes: number): Promise<FitState> =>
  (await server.ask('GET', `/api/films/${filmId}/fit/${mostBytes}`)).json;
const probe = async (path: string, entries: string) =>
  (await run('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'csv=p=0', path]))
    .toString()
    .trim();

/** A picture that is hard to encode, and a voice. */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-fitted-'));
  server = await startTestServer();
  const [picture, voice] = [join(folder, 'picture.mp4'), join(folder, 'voice.mp4')];
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `testsrc2=s=640x360:r=30:d=${SECONDS},noise=alls=14:allf=t`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30'],
    ...['-pix_fmt', 'yuv420p', picture],
  ]);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `sine=f=440:r=48000:d=${SECONDS}`, '-c:a', 'aac', voice],
  ]);
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Tides' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: 'take-fitted', source: 'screen', practice: false },
    tracks: [
      { id: 'take-fitted-surface', kind: 'surface' },
      { id: 'take-fitted-voice', kind: 'voice' },
    ],
  });
  await server.upload('take-fitted-surface', await readFile(picture));
  await server.upload('take-fitted-voice', await readFile(voice));
  await server.ask('POST', '/api/takes/take-fitted/stop', {});
  expect(await server.ingested('take-fitted')).toBe('ready');
  const { json } = await server.ask('POST', `/api/lessons/${LESSON}/films`, {
    size: 'as-recorded',
  });
  filmId = json.id;
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

it('waits for the film itself', async () => {
  const early = await server.ask('POST', `/api/films/${filmId}/fit/1000000`);
  if (early.status !== 200) expect(early.json.code).toBe('not-ready');
  await until(filmState, (state) => state === 'done');
});

it('is as small as was asked, within a tenth, and has picture, sound, length, cover and title still', async () => {
  const before = await readFile(server.parts.media.film(filmId));
  const mostBytes = 1_000_000;
  expect(before.length).toBeGreaterThan(2 * mostBytes);
  expect((await fitted(mostBytes)).state).toBe('none');
  const notYet = await fetch(`${server.url}/api/films/${filmId}/fit/${mostBytes}/film.mp4`);
  expect(notYet.status).not.toBe(200);
  const begun = await server.ask('POST', `/api/films/${filmId}/fit/${mostBytes}`);
  expect(begun.json.state).toBe('making');
  // Asked for twice, it is made once.
  expect((await server.ask('POST', `/api/films/${filmId}/fit/${mostBytes}`)).status).toBe(200);
  const seen: number[] = [];
  const done = await until(
    async () => {
      const state = await fitted(mostBytes);
      seen.push(state.done);
      return state;
    },
    ({ state }) => state !== 'making',
  );
  expect(done.state).toBe('done');
  expect(done.bytes).toBeLessThanOrEqual(mostBytes);
  expect(done.bytes).toBeGreaterThan(0.9 * mostBytes);
  expect(seen).toEqual([...seen].sort((a, b) => a - b));
  const answer = await fetch(`${server.url}/api/films/${filmId}/fit/${mostBytes}/film.mp4`);
  expect(answer.headers.get('content-disposition')).toContain('Tides.mp4');
  const path = server.parts.media.filmFitted(filmId, mostBytes);
  expect((await answer.arrayBuffer()).byteLength).toBe(done.bytes);
  expect(await probe(path, 'stream=codec_name')).toBe('h264\naac\nmjpeg');
  expect(await probe(path, 'format_tags=title')).toBe('Tides');
  const frames = await run('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v:0', '-count_packets'],
    ...['-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0', path],
  ]);
  expect(Number(frames.toString())).toBe(SECONDS * 30);
  // The film itself is as it was.
  expect((await readFile(server.parts.media.film(filmId))).equals(before)).toBe(true);
});

it('says where it is too long for so little, and takes no other numbers', async () => {
  const tiny = await server.ask('POST', `/api/films/${filmId}/fit/100000`);
  expect([tiny.status, tiny.json.code]).toEqual([409, 'cannot-fit']);
  for (const bytes of ['99', '-1', '1e9', '1000000x', '%2e%2e'])
    expect((await server.ask('POST', `/api/films/${filmId}/fit/${bytes}`)).status).toBeGreaterThan(
      399,
    );
});

it('goes when the film goes', async () => {
  const path = server.parts.media.filmFitted(filmId, 1_000_000);
  await server.ask('POST', `/api/bin/film/${filmId}`);
  await server.ask('DELETE', `/api/bin/film/${filmId}`);
  await expect(readFile(path)).rejects.toThrow();
});
