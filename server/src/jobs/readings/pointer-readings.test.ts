import { createCanvas, loadImage } from '@napi-rs/canvas';
import { LEFT_AS_IT_IS } from '@under-chalk/core/pointer/look';
import { pathOfFound, type FoundPointer } from '@under-chalk/core/pointer/found';
import { pointingAt } from '@under-chalk/core/pointer/path';
import { frameToUs } from '@under-chalk/core/time/frames';
import { drawScreen, pointerAt, SCREEN_SIZE } from '@under-chalk/paint/practice/tide-table';
import { run } from '@under-chalk/render';
import { feed, start } from '@under-chalk/render/ffmpeg/run';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../../testing/built-scripts';
import { startTestServer, type TestServer } from '../../testing/test-server';

jest.setTimeout(180_000);
const SECONDS = 5;
let folder: string;
let thread: string;
let server: TestServer;
let screen: Buffer;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-pointers-'));
  thread = builtScript('pointer-thread.mjs');
  const canvas = createCanvas(SCREEN_SIZE.width, SCREEN_SIZE.height);
  const context = canvas.getContext('2d');
  const path = join(folder, 'screen.mp4');
  const encoder = start('ffmpeg', [
    ...['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', '1280x720', '-r', '30', '-i', 'pipe:0'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-b:v', '2500k', '-g', '60'],
    ...['-pix_fmt', 'yuv420p', '-movflags', '+frag_keyframe+empty_moov+default_base_moof', path],
  ]);
  for (let frame = 0; frame < SECONDS * 30; frame++) {
    drawScreen(context as never, frame / 30);
    await feed(encoder, Buffer.from(canvas.data()));
  }
  encoder.stdin.end();
  await encoder.ended;
  screen = await readFile(path);
  server = await startTestServer({ pointerScript: thread });
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Reading a tide table' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const record = async (takeId: string, source = 'screen') => {
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    ...{ id: takeId, source, practice: true },
    tracks: [{ id: `${takeId}-surface`, kind: 'surface' }],
  });
  await server.upload(`${takeId}-surface`, screen);
  await server.ask('POST', `/api/takes/${takeId}/stop`, {});
  expect(await server.ingested(takeId)).toBe('ready');
};

const stateOf = async (takeId: string) =>
  (await server.ask('GET', `/api/takes/${takeId}/pointer`)).json;

const found = async (takeId: string): Promise<FoundPointer> => {
  for (;;) {
    const state = await stateOf(takeId);
    if (state.is === 'found') return state.found;
    expect(state).toMatchObject({ is: 'looking' });
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};

/** Pixels that are as amber as a halo is, in a box of a picture. */
const amberIn = async (file: string, [x, y]: readonly [number, number]) => {
  const canvas = createCanvas(160, 160);
  const context = canvas.getContext('2d');
  context.drawImage(await loadImage(file), -x + 80, -y + 80);
  const { data } = context.getImageData(0, 0, 160, 160);
  let amber = 0;
  for (let at = 0; at < data.length; at += 4) {
    if (data[at]! > 190 && data[at]! - data[at + 2]! > 40) amber++;
  }
  return amber;
};

test('a captured screen is looked at once it is ready, and a film has a halo where its pointer was', async () => {
  await record('take-screen');
  const reading = await found('take-screen');
  expect(reading.sureShare).toBeGreaterThan(0.8);
  const path = pathOfFound(reading);
  const off = (frame: number) => {
    const at = pointingAt(path, frameToUs(frame))!;
    const { x, y } = pointerAt(frame / 30);
    return Math.hypot(at.x * 1280 - x, at.y * 1280 - y);
  };
  for (const frame of [20, 33, 45, 62, 90, 120, 140]) expect(off(frame)).toBeLessThan(8);
  // Nothing is drawn before somebody wants it.
  const { lesson } = (await server.ask('GET', '/api/lessons/lesson-one')).json;
  expect(lesson.decisions.screenPointer).toEqual(LEFT_AS_IT_IS);
  await server.edit('lesson-one', {
    do: 'show-screen-pointer',
    look: { ...LEFT_AS_IT_IS, mark: 'halo', goesAfterUs: 0 },
  });
  const { id } = (await server.ask('POST', '/api/lessons/lesson-one/films', { size: '720p' })).json;
  for (;;) {
    const { state } = await server.parts.films.get(id);
    if (state === 'done') break;
    expect(['waiting', 'making']).toContain(state);
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
  const film = join(folder, 'film.mp4');
  await writeFile(film, await readFile(server.parts.media.film(id)));
  for (const frame of [45, 120]) {
    const still = join(folder, `${frame}.png`);
    const only = ['-vf', `select=eq(n\\,${frame}),scale=1280:720`, '-frames:v', '1', still];
    await run('ffmpeg', ['-i', film, ...only]);
    const { x, y } = pointerAt(frame / 30);
    expect(await amberIn(still, [x, y])).toBeGreaterThan(1_500);
    expect(await amberIn(still, [1280 - x, 720 - y])).toBeLessThan(200);
  }
});

test('a reading outlives the server, and one of another way of looking, of other pictures, or torn, is done anew', async () => {
  const home = join(folder, 'home');
  const first = await startTestServer({ pointerScript: thread, home });
  const other = server;
  server = first;
  await first.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Reading a tide table' });
  await record('take-kept');
  await found('take-kept');
  const file = first.parts.media.pointer('take-kept-surface');
  const kept = await readFile(file, 'utf8');
  await first.stop();

  // Without the thread nothing can be measured: what is told was kept.
  const second = await startTestServer({ home });
  server = second;
  expect(await stateOf('take-kept')).toMatchObject({ is: 'found' });
  await second.stop();

  const spoilt = [
    JSON.stringify({ ...JSON.parse(kept), version: 0, sureShare: 0 }),
    JSON.stringify({ ...JSON.parse(kept), of: 'others' }),
    kept.slice(0, kept.length / 2),
  ];
  for (const text of spoilt) {
    await writeFile(file, text);
    const again = await startTestServer({ pointerScript: thread, home });
    server = again;
    for (;;) {
      const state = await stateOf('take-kept');
      if (state.is === 'found' && state.found.version > 0) break;
      expect(state.is).not.toBe('none');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect(JSON.parse(await readFile(file, 'utf8'))).toEqual(JSON.parse(kept));
    await again.stop();
  }
  server = other;
});

test('a camera has no pointer, and what can’t be read is told so, once', async () => {
  await record('take-camera', 'camera');
  expect(await stateOf('take-camera')).toEqual({ is: 'none' });
  await record('take-spoilt');
  await writeFile(server.parts.media.media('take-spoilt-surface').path, 'no film');
  await rm(server.parts.media.pointer('take-spoilt-surface'), { force: true });
  await server.parts.pointers.ready('take-spoilt');
  for (;;) {
    const state = await stateOf('take-spoilt');
    if (state.is === 'none') break;
    expect(state.is).toBe('looking');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  expect(server.logged.filter((line) => line.includes('pointer can’t be looked for'))).toHaveLength(
    1,
  );
});
