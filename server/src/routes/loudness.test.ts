import { run } from '@under-chalk/render';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-loudness-'));
  await server.ask('POST', '/api/lessons', { id: 'lesson-loud', title: 'Tides' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const record = async (id: string, source: string) => {
  const path = join(folder, `${id}.mp4`);
  await run('ffmpeg', ['-f', 'lavfi', '-i', source, '-ac', '1', '-c:a', 'libopus', path]);
  const track = `${id}-voice`;
  await server.ask('POST', '/api/lessons/lesson-loud/takes', {
    ...{ id, source: 'sound', practice: false, tracks: [{ id: track, kind: 'voice' }] },
  });
  await server.upload(track, await readFile(path));
  await server.ask('POST', `/api/takes/${id}/stop`, {});
  expect(await server.ingested(id)).toBe('ready');
  return track;
};
const loudness = async (id: string) => (await server.ask('GET', `/api/takes/${id}/loudness`)).json;

it('is measured once a take is ready, kept beside it, and told', async () => {
  // BS.1770: a sine of 997 Hz at 0 dBFS in one channel reads −3.01; in two channels of half its power, the same.
  const track = await record('take-tone', 'sine=f=997:d=6,volume=8dB');
  const [told] = await loudness('take-tone');
  // The source has a peak of −18 dBFS, and 8 dB more.
  expect(told.trackId).toBe(track);
  expect(told.lufs).toBeGreaterThan(-14.2);
  expect(told.lufs).toBeLessThan(-12.2);
  const file = server.parts.media.loudness(track);
  expect(existsSync(file)).toBe(true);
  // It is not measured again; of another sound, or torn, it is.
  const kept = JSON.parse(await readFile(file, 'utf8'));
  await writeFile(file, JSON.stringify({ ...kept, lufs: -50 }));
  expect((await loudness('take-tone'))[0].lufs).toBe(-50);
  await writeFile(file, JSON.stringify({ ...kept, of: 'another' }));
  expect((await loudness('take-tone'))[0].lufs).toBe(told.lufs);
  await writeFile(file, '{"version":');
  expect((await loudness('take-tone'))[0].lufs).toBe(told.lufs);
});

it('is none where nothing can be heard', async () => {
  const track = await record('take-silent', 'anullsrc=d=3');
  expect(await loudness('take-silent')).toEqual([{ trackId: track, lufs: null }]);
  expect((await server.ask('GET', '/api/takes/take-none/loudness')).status).toBe(404);
});
