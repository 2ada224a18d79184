import { NEW_DECISIONS } from '@under-chalk/core/edit/decisions';
import { run } from '@under-chalk/render';
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../testing/built-scripts';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
let thread: string;
let folder: string;
const SECONDS = 20;
const VOICE = 'take-noisy-voice';

/** Words with pauses, over hiss. */
const noisy = async (): Promise<Buffer> => {
  const path = join(folder, 'noisy.mp4');
  const said = '0.3*sin(2*PI*t*210)*gt(sin(2*PI*t*0.8)\\,0)';
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `aevalsrc=${said}:s=48000:d=${SECONDS}`],
    ...['-f', 'lavfi', '-i', `anoisesrc=r=48000:a=0.02:seed=4:d=${SECONDS}`],
    ...['-filter_complex', 'amix=normalize=0', '-c:a', 'libopus', path],
  ]);
  return readFile(path);
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-noise-reduced-'));
  thread = builtScript('noise-reduction-thread.mjs');
  server = await startTestServer({ noiseReductionScript: thread });
  await server.ask('POST', '/api/lessons', { id: 'lesson-noisy', title: 'Tides' });
  await server.ask('POST', '/api/lessons/lesson-noisy/takes', {
    ...{ id: 'take-noisy', source: 'sound', practice: false },
    tracks: [{ id: VOICE, kind: 'voice' }],
  });
  await server.upload(VOICE, await noisy());
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const state = async (reduction = 'gently', take = 'take-noisy') =>
  server.ask('GET', `/api/takes/${take}/noise-reduced?reduction=${reduction}`);

/** Mean level of a pause in a file, dBFS. */
const pauseOf = async (path: string, from = 10.7) => {
  const text = await run('ffmpeg', [
    ...['-ss', String(from), '-t', '0.5', '-i', path],
    ...['-af', 'astats=metadata=1,ametadata=mode=print:key=lavfi.astats.Overall.RMS_level:file=-'],
    ...['-f', 'null', '-'],
  ]);
  return Number([...text.toString().matchAll(/RMS_level=(\S+)/g)].at(-1)![1]);
};

it('is nothing before the take is ready, and refuses what it doesn’t know', async () => {
  expect((await state()).json).toEqual({ is: 'none' });
  expect((await state('scrubbed')).status).toBe(400);
  expect((await state('gently', 'take-none')).status).toBe(404);
  expect((await server.ask('GET', `/api/tracks/${VOICE}/media?reduction=gently`)).status).toBe(404);
});

it('is made once it is asked for, beside the server, and told how far it is', async () => {
  await server.ask('POST', '/api/takes/take-noisy/stop', {});
  expect(await server.ingested('take-noisy')).toBe('ready');
  const media = `/api/tracks/${VOICE}/media?reduction=gently`;
  expect((await server.ask('GET', media)).status).toBe(404);
  const shares: number[] = [];
  for (;;) {
    const { json } = await state();
    if (json.is === 'ready') break;
    expect(json.is).toBe('making');
    shares.push(json.share);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares.some((share) => share > 0 && share < 1)).toBe(true);
  const { path } = server.parts.media.media(VOICE);
  const took = (await server.parts.takes.get('take-noisy')).tracks[0]!;
  const noiseReduced = server.parts.media.noiseReduced(took, 'gently').path;
  expect((await pauseOf(path)) - (await pauseOf(noiseReduced))).toBeGreaterThan(9);
  expect((await server.ask('GET', media)).status).toBe(200);
});

it('gives a part of it at once, and no more than half a minute', async () => {
  const part = (from: number, to: number) =>
    server.ask(
      'GET',
      `/api/takes/take-noisy/noise-reduced-part?reduction=firmly&fromUs=${from}&toUs=${to}`,
    );
  const given = await part(4_000_000, 6_000_000);
  expect(given.status).toBe(200);
  expect((await part(0, 31_000_000)).status).toBe(400);
  expect((await part(5, 5)).status).toBe(400);
});

it('is what the film has: the pauses are quieter, and the sound is made anew only then', async () => {
  const film = async () => {
    const { json } = await server.ask('POST', '/api/lessons/lesson-noisy/films', { size: '720p' });
    for (;;) {
      const { json: rows } = await server.ask('GET', '/api/lessons/lesson-noisy/films');
      const made = rows.find((row: { id: string }) => row.id === json.id);
      if (made.state === 'done') return server.parts.media.film(json.id);
      expect(made.state).not.toBe('failed');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  const before = await film();
  await server.edit('lesson-noisy', {
    ...{ do: 'reduce-noise', takeId: 'take-noisy', reduction: 'firmly' },
  });
  const after = await film();
  expect((await pauseOf(before)) - (await pauseOf(after))).toBeGreaterThan(14);
  expect(NEW_DECISIONS.noiseReduction).toEqual([]);
});

it('goes with its take', async () => {
  const { media } = server.parts;
  const names = async () => (await readdir(join(media.media(VOICE).path, '..'))).join(' ');
  expect(await names()).toContain('noise-reduced');
  await media.forgetTake('take-noisy', [VOICE]);
  expect(await names()).not.toContain(VOICE);
  expect(existsSync(media.media(VOICE).path)).toBe(false);
});
