import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadImage, createCanvas } from '@napi-rs/canvas';
import { looksOf } from '@under-chalk/core/checks/cover-choice';
import { builtScript } from '../testing/built-scripts';
import { drawnFace } from '../testing/drawn-face';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let faces: string;
let server: TestServer;
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-covers-'));
  faces = builtScript('face-thread.mjs');
  // Nothing is made: a cover doesn't wait for it.
  server = await startTestServer({
    faceScript: faces,
    work: (_job, _tell, signal) =>
      new Promise((_, reject) => {
        signal.addEventListener('abort', () => reject(signal.reason as Error));
      }),
  });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

/** A lesson of twelve seconds that shows something between two times only, and is an empty board before and after. */
const lessonWith = async (id: string, shownFrom: number, shownTo: number): Promise<string> => {
  const path = join(folder, `${id}.mp4`);
  const empty = 'color=c=0x1c252b:s=320x180:r=15';
  const shown = `enable='between(t,${shownFrom},${shownTo})'`;
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `${empty}:d=12`, '-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=15:d=12'],
    ...['-filter_complex', `[0][1]overlay=${shown},format=yuv420p`, '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '15', path],
  ]);
  await server.ask('POST', '/api/lessons', { id, title: 'The rule of twelfths' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'screen', practice: false },
    tracks: [{ id: `take-${id}-surface`, kind: 'surface' }],
  });
  await server.upload(`take-${id}-surface`, await readFile(path));
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  expect(await server.ingested(`take-${id}`)).toBe('ready');
  const { json } = await server.ask('POST', `/api/lessons/${id}/share-links`, { size: '720p' });
  return json.token;
};
const coverOf = async (token: string) => {
  const answer = await fetch(`${server.url}/api/watch/${token}/cover.jpg`);
  expect(answer.status).toBe(200);
  const image = await loadImage(Buffer.from(await answer.arrayBuffer()));
  const canvas = createCanvas(image.width, image.height);
  canvas.getContext('2d').drawImage(image, 0, 0);
  return looksOf(canvas.data(), canvas.width, canvas.height).full;
};

it('shows something, wherever in the film that is, before the film is made', async () => {
  expect(await coverOf(await lessonWith('lesson-late', 9.5, 11))).toBeGreaterThan(0.05);
  expect(await coverOf(await lessonWith('lesson-early', 1.5, 3))).toBeGreaterThan(0.05);
});

it('is the empty board where there is nothing else', async () => {
  expect(await coverOf(await lessonWith('lesson-empty', 20, 21))).toBeLessThan(0.01);
});

it('is of a face whose eyes are open, though a blink lies where it would be taken', async () => {
  const [open, shut] = [join(folder, 'open.png'), join(folder, 'shut.png')];
  await writeFile(open, await (await drawnFace(1)).encode('png'));
  await writeFile(shut, await (await drawnFace(0)).encode('png'));
  const path = join(folder, 'face.mp4');
  const still = (of: string) => ['-loop', '1', '-framerate', '15', '-t', '12', '-i', of];
  // A third of the way, where a cover is looked for first, the eyes are shut; 0.4 s later they aren’t.
  const seen = `overlay=enable='between(t,4.2,4.6)+between(t,8.8,9.3)',format=yuv420p`;
  await run('ffmpeg', [
    ...[...still(shut), ...still(open), '-filter_complex', `[0][1]${seen}`, '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '15', path],
  ]);
  const id = 'lesson-face';
  await server.ask('POST', '/api/lessons', { id, title: 'Welcome to week four' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: 'take-face', source: 'camera', practice: false },
    tracks: [{ id: 'take-face-camera', kind: 'camera' }],
  });
  await server.upload('take-face-camera', await readFile(path));
  await server.ask('POST', '/api/takes/take-face/stop', {});
  expect(await server.ingested('take-face')).toBe('ready');
  const { json } = await server.ask('GET', `/api/lessons/${id}/covers`);
  expect(json.found.filmUs / 1e6).toBeCloseTo(4.4, 1);
  expect(json.proposed.length).toBeGreaterThan(0);
  for (const { filmUs } of json.proposed) {
    const at = filmUs / 1e6;
    expect((at >= 4.2 && at <= 4.6) || (at >= 8.8 && at <= 9.3)).toBe(true);
  }
});

describe('a cover that is chosen', () => {
  const light = (of: 'cover.jpg' | string, query = '') =>
    fetch(`${server.url}/api/lessons/lesson-late/${of}${query}`).then(async (answer) => {
      expect(answer.status).toBe(200);
      const image = await loadImage(Buffer.from(await answer.arrayBuffer()));
      const canvas = createCanvas(image.width, image.height);
      canvas.getContext('2d').drawImage(image, 0, 0);
      return looksOf(canvas.data(), canvas.width, canvas.height).full;
    });

  it('is proposed from moments that show something', async () => {
    const { json } = await server.ask('GET', '/api/lessons/lesson-late/covers');
    expect(json.isBlank).toBe(false);
    expect(json.proposed.length).toBeGreaterThan(0);
    for (const { filmUs } of json.proposed) {
      expect(filmUs).toBeGreaterThanOrEqual(9_500_000);
      expect(filmUs).toBeLessThanOrEqual(11_000_000);
    }
    expect((await server.ask('GET', '/api/lessons/lesson-empty/covers')).json).toMatchObject({
      ...{ isBlank: true, proposed: [] },
    });
  });

  it('is shown as it would be, before it is decided: a moment, with the title over it', async () => {
    const empty = '?takeId=take-lesson-late&atUs=2000000';
    expect(await light('cover.jpg', empty)).toBeLessThan(0.01);
    expect(await light('cover.jpg', `${empty}&titled=true`)).toBeGreaterThan(0.03);
    expect(await light('cover.jpg')).toBeGreaterThan(0.05);
  });

  it('comes with the next film that is given, and not with the one that was', async () => {
    const { json: before } = await server.ask('GET', '/api/lessons/lesson-late/share-links');
    const of = { takeId: 'take-lesson-late', atUs: 2_000_000 };
    await server.edit('lesson-late', { do: 'set-cover', cover: { of, titled: false } });
    expect(await coverOf(before[0].token)).toBeGreaterThan(0.05);
    const { json: given } = await server.ask('POST', '/api/lessons/lesson-late/share-links', {
      size: '720p',
    });
    expect(await coverOf(given.token)).toBeLessThan(0.01);
    expect(given.film.id).not.toBe(before[0].film.id);
  });

  it('never shows what was cut out', async () => {
    await server.edit('lesson-late', {
      ...{ do: 'cut', takeId: 'take-lesson-late', startUs: 1_000_000, endUs: 4_000_000 },
    });
    expect(await light('cover.jpg', '?takeId=take-lesson-late&atUs=2000000')).toBeGreaterThan(0.05);
  });
});
