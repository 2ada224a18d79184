import { FfmpegTimeout, run } from '@under-chalk/render';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

let server: TestServer;
let folder: string;
let film: Buffer;
beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-service-'));
  const path = join(folder, 'film.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=15', '-t', '1', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-pix_fmt', 'yuv420p', path],
  ]);
  film = await readFile(path);
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Keeping' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});
afterEach(() => jest.restoreAllMocks());

const send = async (id: string) => {
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    id,
    source: 'screen',
    practice: true,
    tracks: [{ id: `${id}-surface`, kind: 'surface' }],
  });
  await server.upload(`${id}-surface`, film);
  await server.ask('POST', `/api/takes/${id}/stop`, {});
};
const stateOf = async (id: string) => (await server.parts.takes.get(id)).state;
const failing = (code: string) =>
  jest
    .spyOn(server.parts.takes, 'ingested')
    .mockRejectedValue(Object.assign(new Error(code), { code }));

it('tries a take again that a full disk kept from being processed, without being restarted', async () => {
  const full = failing('SQLITE_FULL');
  await send('take-full');
  while (full.mock.calls.length === 0) await new Promise((resolve) => setTimeout(resolve, 30));
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await stateOf('take-full')).toBe('processing');
  // Not at once, for nothing has changed.
  await server.parts.takeService.sweep();
  expect(full).toHaveBeenCalledTimes(1);
  full.mockRestore();
  await server.parts.takeService.sweep(Date.now() + 11_000);
  expect(await server.ingested('take-full')).toBe('ready');
});

it('tries a take again by itself that reached a time limit', async () => {
  const late = jest
    .spyOn(server.parts.takes, 'ingested')
    .mockRejectedValueOnce(new FfmpegTimeout('ffmpeg', 'it ran for 14 s'));
  await send('take-late');
  while (late.mock.calls.length === 0) await new Promise((resolve) => setTimeout(resolve, 30));
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(await stateOf('take-late')).toBe('processing');
  await server.parts.takeService.sweep(Date.now() + 11_000);
  expect(await server.ingested('take-late')).toBe('ready');
  expect((await server.parts.takes.get('take-late')).problem).toBeNull();
});

it('leaves no take without a state that a person can act on, whatever else fails', async () => {
  const broken = failing('EIO');
  await send('take-broken');
  expect(await server.ingested('take-broken')).toBe('unusable');
  expect((await server.parts.takes.get('take-broken')).problem).toBe('take-unreadable');
  broken.mockRestore();
  await server.ask('POST', '/api/takes/take-broken/process');
  expect(await server.ingested('take-broken')).toBe('ready');
});

it('tells how much of a take is made while it is made, and nothing of one that waits or is ready', async () => {
  const slow = join(folder, 'slow.mkv');
  // MPEG-4 part 2 has to be encoded anew: long enough to be seen at it.
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=30', '-t', '15', '-c:v', 'mpeg4', slow],
  ]);
  const bytes = await readFile(slow);
  for (const id of ['take-made', 'take-waits']) {
    await server.ask('POST', '/api/lessons/lesson-one/takes', {
      ...{ id, source: 'film', practice: false },
      tracks: [{ id: `${id}-surface`, kind: 'surface' }],
    });
    await server.upload(`${id}-surface`, bytes);
    await server.ask('POST', `/api/takes/${id}/stop`, {});
  }
  const shares: number[] = [];
  while ((await stateOf('take-made')) === 'processing') {
    const { making } = (await server.ask('GET', '/api/lessons/lesson-one')).json as {
      making: Record<string, number>;
    };
    if ((await stateOf('take-made')) === 'processing') expect(making['take-waits']).toBeUndefined();
    if (making['take-made'] !== undefined) shares.push(making['take-made']);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  expect(await stateOf('take-made')).toBe('ready');
  // It goes up, and through more than its beginning and its end.
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(new Set(shares.filter((share) => share > 0.05 && share < 0.95)).size).toBeGreaterThan(1);
  await server.parts.takeService.callOff('take-waits');
  expect(server.parts.takeService.progress(['take-made', 'take-waits'])).toEqual({});
});
