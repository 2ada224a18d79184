import { lessonArchiveSchema, archiveText } from '@under-chalk/core/out/lesson-archive';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { run } from '@under-chalk/render';
import { createHash } from 'node:crypto';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { filesIn } from '../testing/archive';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
let folder: string;
const LESSON = 'lesson-bundle';
const TAKE = 'take-bundle';
const paper = { ruling: 'plain', shade: 'light' } as const;
const INK = ([{ at: 0, do: 'page', page: 'page-one', paper }] as InkRecord[]).map(inkLine).join('');

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-bundle-'));
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Tides: the rule / of twelfths' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: TAKE, source: 'board', practice: false },
    tracks: [
      { id: `${TAKE}-ink`, kind: 'ink' },
      { id: `${TAKE}-voice`, kind: 'voice' },
    ],
  });
  const voice = join(folder, 'voice.mp4');
  const sound = ['-f', 'lavfi', '-i', 'sine=frequency=220:duration=3'];
  await run('ffmpeg', [...sound, '-c:a', 'libopus', '-f', 'mp4', voice]);
  await server.upload(`${TAKE}-voice`, await readFile(voice));
  await server.upload(`${TAKE}-ink`, Buffer.from(INK));
  await server.ask('POST', `/api/takes/${TAKE}/stop`, {});
  await server.ingested(TAKE);
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const bundle = async () => {
  const answer = await fetch(`${server.url}/api/lessons/${LESSON}/archive.zip`);
  return { answer, archive: Buffer.from(await answer.arrayBuffer()) };
};

it('has all of a lesson in it: its document, what was recorded and written, and the cut list', async () => {
  const { answer, archive } = await bundle();
  expect(answer.headers.get('content-type')).toBe('application/zip');
  expect(answer.headers.get('content-disposition')).toContain('Tides the rule of twelfths.zip');
  // How long it will be is told beforehand.
  expect(Number(answer.headers.get('content-length'))).toBe(archive.length);
  const files = await filesIn(archive);
  expect([...files.keys()]).toEqual([
    ...['lesson.json', 'timeline.otio'],
    ...[`ink/${TAKE}-ink.ndjson`, `media/${TAKE}-voice.mp4`],
  ]);
  const text = files.get('lesson.json')!.toString();
  const document = lessonArchiveSchema.parse(JSON.parse(text));
  // Read and written again it is the same to the byte.
  expect(archiveText(document)).toBe(text);
  expect(document.takes.map(({ id }) => id)).toEqual([TAKE]);
  expect(files.get(`ink/${TAKE}-ink.ndjson`)!.toString()).toBe(INK);
  const kept = await readFile(server.parts.media.media(`${TAKE}-voice`).path);
  expect(files.get(`media/${TAKE}-voice.mp4`)!.equals(kept)).toBe(true);
  const timeline = JSON.parse(files.get('timeline.otio')!.toString());
  expect(timeline.tracks.children[0].children[0].media_reference.target_url).toBe(
    `media/${TAKE}-voice.mp4`,
  );
});

it('is the same archive to the byte as long as the lesson is the same', async () => {
  const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
  const [one, other] = [await bundle(), await bundle()];
  expect(digest(one.archive)).toBe(digest(other.archive));
});

it('is nobody’s but the teacher’s, and of no lesson that isn’t there', async () => {
  expect((await server.ask('GET', '/api/lessons/lesson-none/archive.zip')).status).toBe(404);
  const { status, headers } = await server.ask('GET', `/api/lessons/${LESSON}/timeline.otio`);
  expect([status, headers.get('content-disposition')]).toEqual([
    200,
    expect.stringContaining('.otio'),
  ]);
});
