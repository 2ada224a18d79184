import { createCanvas, GlobalFonts } from '@napi-rs/canvas';
import type { LessonPictures } from '@under-chalk/core/contract/lessons';
import { destinationOf, FIRST_DESTINATIONS } from '@under-chalk/core/destination/destination';
import { checksOf } from '@under-chalk/core/checks/checks';
import { seePictures } from '@under-chalk/core/checks/pictures-seen';
import { filmOf } from '@under-chalk/core/film/film';
import { picturesRead, type PictureReading } from '@under-chalk/core/picture/reading';
import { feed, start } from '@under-chalk/render/ffmpeg/run';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../../testing/built-scripts';
import { startTestServer, type TestServer } from '../../testing/test-server';

jest.setTimeout(180_000);

const LESSON = 'lesson-one';
const SECONDS = 14;
let folder: string;
let thread: string;
let reader: string;
let server: TestServer;
let screen: Buffer;
let camera: Buffer;
/** Two seconds of nothing, small. */
let plain: Buffer;

const SAYS = 'The height of tide at half past four is two metres';
const font = join(
  __dirname,
  '../../../../node_modules/@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf',
);

/** A picture of a screen on which something is written, its letters as high as that: ascenders and descenders. */
const written = (letters: number, lines: number) => {
  const canvas = createCanvas(1280, 720);
  const context = canvas.getContext('2d');
  context.fillStyle = '#f6f4ea';
  context.fillRect(0, 0, 1280, 720);
  context.fillStyle = '#1f2a33';
  context.font = `${letters}px Reading`;
  for (let line = 0; line < lines; line++) context.fillText(SAYS, 120, 200 + line * 2 * letters);
  return canvas;
};

const encoded = async (
  name: string,
  frame: (index: number) => Buffer,
  { fps = 10, seconds = SECONDS, size = '1280x720' } = {},
) => {
  const path = join(folder, name);
  const encoder = start('ffmpeg', [
    ...['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', size, '-r', String(fps), '-i', 'pipe:0'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '18', '-g', String(fps)],
    ...['-pix_fmt', 'yuv420p', '-movflags', '+frag_keyframe+empty_moov+default_base_moof', path],
  ]);
  for (let index = 0; index < seconds * fps; index++) await feed(encoder, frame(index));
  encoder.stdin.end();
  await encoder.ended;
  return readFile(path);
};

/** A camera: noise of its own; black from 2 to 5 s, still from 7 to 12 s. */
const cameraFrame = (index: number): Buffer => {
  const pixels = new Uint32Array(1280 * 720);
  const bytes = Buffer.from(pixels.buffer);
  const second = index / 10;
  if (second >= 2 && second < 5) return bytes;
  const seed = second >= 7 && second < 12 ? 70 : index;
  // Grain as coarse as what is left of it when it has been made smaller.
  for (let y = 0; y < 720; y++) {
    for (let x = 0; x < 1280; x++) {
      const grain = (((x >> 4) * 7919 + (y >> 4) * 104_729 + seed * 15_485_863) >>> 3) % 24;
      pixels[y * 1280 + x] = (100 + grain) * 0x01_01_01;
    }
  }
  return bytes;
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-pictures-'));
  GlobalFonts.registerFromPath(font, 'Reading');
  thread = builtScript('picture-thread.mjs');
  reader = builtScript('reader/reader-process.mjs');
  const [small, large] = [written(18, 8), written(40, 4)].map((canvas) =>
    Buffer.from(canvas.data()),
  );
  screen = await encoded('screen.mp4', (index) => (index < 70 ? small! : large!));
  camera = await encoded('camera.mp4', cameraFrame);
  const grey = Buffer.alloc(320 * 180 * 4, 128);
  plain = await encoded('plain.mp4', () => grey, { seconds: 2, size: '320x180' });
  server = await startTestServer({ pictureScript: thread, readerScript: reader });
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Reading a tide table' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

/** Records a surface, and a camera where there is one. */
const record = async (takeId: string, source: 'screen' | 'film', ...pictures: Buffer[]) => {
  const kinds = (['surface', 'camera'] as const).slice(0, pictures.length);
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: takeId, source, practice: true },
    tracks: kinds.map((kind) => ({ id: `${takeId}-${kind}`, kind })),
  });
  for (const [index, kind] of kinds.entries())
    await server.upload(`${takeId}-${kind}`, pictures[index]!);
  await server.ask('POST', `/api/takes/${takeId}/stop`, {});
  expect(await server.ingested(takeId)).toBe('ready');
};

/** What is known once all has been looked through. */
const known = async (): Promise<LessonPictures> => {
  for (;;) {
    const { json } = await server.ask('GET', `/api/lessons/${LESSON}/pictures`);
    if (json.isWhole) return json;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};
const ofTrack = ({ tracks }: LessonPictures, trackId: string): PictureReading =>
  tracks.find((one) => one.trackId === trackId)!.reading;
const near = (us: number, seconds: number) => Math.abs(us / 1e6 - seconds) <= 1;

test('what a screen shows is read, with its height; a camera that goes black or stands still is found', async () => {
  await record('take-screen', 'screen', screen, camera);
  const found = await known();
  const { texts, flaws } = ofTrack(found, 'take-screen-surface');
  expect(flaws).toEqual([]);
  expect(texts).toHaveLength(2);
  const [first, second] = texts;
  expect([first!.startUs, near(first!.endUs, 7), near(second!.endUs, SECONDS)]).toEqual([
    0,
    true,
    true,
  ]);
  const signs = SAYS.replaceAll(' ', '').length;
  for (const [{ shown }, letters, lines] of [
    [first!, 18, 8],
    [second!, 40, 4],
  ] as const) {
    const all = shown.reduce((sum, text) => sum + text.signs, 0);
    expect(all / (signs * lines)).toBeCloseTo(1, 1);
    for (const text of shown.filter((one) => one.signs > 10)) {
      expect(text.letters * 720).toBeGreaterThan(letters * 0.75);
      expect(text.letters * 720).toBeLessThan(letters * 1.3);
      expect([near(text.x * 1e6, 120 / 1280), text.width > 0.1]).toEqual([true, true]);
    }
  }
  const inCamera = ofTrack(found, 'take-screen-camera');
  expect(inCamera.texts).toEqual([]);
  expect(inCamera.flaws.map(({ is }) => is)).toEqual(['black', 'still']);
  const [black, still] = inCamera.flaws;
  expect([near(black!.startUs, 2), near(black!.endUs, 5)]).toEqual([true, true]);
  expect([near(still!.startUs, 7), near(still!.endUs, 12)]).toEqual([true, true]);

  // And the last look says so.
  const { lesson } = (await server.ask('GET', `/api/lessons/${LESSON}`)).json;
  const film = filmOf(lesson);
  const pictures = seePictures(film, () => null, picturesRead(found));
  const checks = checksOf(film, {
    ...{ levels: new Map(), attentionUs: 360_000_000, bytes: { count: 1, made: false }, pictures },
    destination: destinationOf(FIRST_DESTINATIONS, film.lesson.decisions.plan.destinationId),
  });
  const said = checks.flatMap(({ id, sentence }) =>
    id === 'flaw' || id === 'small-text' ? [sentence] : [],
  );
  expect(said).toEqual([
    expect.stringMatching(/^The camera’s picture is black for 3 s at 0:0[23]\.$/),
    expect.stringMatching(/^The camera’s picture stands still for [45] s at 0:0[78]\.$/),
    expect.stringMatching(
      /^On a phone most of what is written is too small to read for 7 s from 0:00 on: letters of [45] px/,
    ),
  ]);
});

test('what came as a file is looked at picture by picture; a reading outlives the server, and a spoilt one is done anew', async () => {
  await record('take-film', 'film', screen);
  const before = ofTrack(await known(), 'take-film-surface');
  expect(before.texts).toHaveLength(2);
  const file = server.parts.media.pictures('take-film-surface');
  const kept = await readFile(file, 'utf8');
  await writeFile(file, kept.slice(0, 50));
  await server.parts.pictures.ready('take-film');
  expect(ofTrack(await known(), 'take-film-surface')).toEqual(before);
  expect(await readFile(file, 'utf8')).toBe(kept);
  // Gone with its take.
  await server.parts.media.forgetTake('take-film', ['take-film-surface']);
  await expect(readFile(file)).rejects.toThrow('ENOENT');
});

test('pages of materials that are written on are read when somebody asks', async () => {
  const id = 'lesson-pages';
  await server.ask('POST', '/api/lessons', { id, title: 'Week four' });
  const slide = written(40, 4).toBuffer('image/png');
  await server.ask('POST', `/api/lessons/${id}/materials`, {
    id: 'material-one',
    name: 'slide.png',
  });
  await server.upload('material-one', slide);
  for (;;) {
    const { json } = await server.ask('POST', '/api/materials/material-one/read', {});
    if (json.state === 'ready') break;
    expect(json.state).not.toBe('unusable');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const { json: materials } = await server.ask('GET', `/api/lessons/${id}/materials`);
  const { content, aspects } = materials[0];
  await record('take-pages', 'screen', plain);
  await server.edit(LESSON, {
    ...{ do: 'set-cutaway', takeId: 'take-pages', startUs: 0, endUs: 1_500_000 },
    of: { content, page: 0, aspect: aspects[0] },
  });
  const [page] = (await known()).pages;
  expect(page).toMatchObject({ content, page: 0 });
  for (const { letters } of page!.reading.shown) expect(letters * 720).toBeCloseTo(40, -1.2);
});

test('what can’t be looked through is told so once, and is waited for no longer', async () => {
  await record('take-spoilt', 'screen', plain);
  await known();
  await writeFile(server.parts.media.media('take-spoilt-surface').path, 'no film');
  await rm(server.parts.media.pictures('take-spoilt-surface'), { force: true });
  await server.parts.pictures.ready('take-spoilt');
  const found = await known();
  expect(found.tracks.some(({ trackId }) => trackId === 'take-spoilt-surface')).toBe(false);
  const told = server.logged.filter((line) =>
    line.includes('take-spoilt: its pictures can’t be looked through'),
  );
  expect(told).toHaveLength(1);
});
