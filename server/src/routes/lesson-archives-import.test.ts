import {
  archiveText,
  readArchiveText,
  type LessonArchive,
} from '@under-chalk/core/out/lesson-archive';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { run } from '@under-chalk/render';
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { ZipFile } from 'yazl';
import { builtScript } from '../testing/built-scripts';
import { startTestServer, type TestServer } from '../testing/test-server';
import { filesIn } from '../testing/archive';

jest.setTimeout(120_000);
let folder: string;
let from: TestServer;
let to: TestServer;
let whole: Buffer;
let document: LessonArchive;
const LESSON = 'lesson-going';
const paper = { ruling: 'plain', shade: 'light' } as const;
const INK = ([{ at: 0, do: 'page', page: 'page-one', paper }] as InkRecord[]).map(inkLine).join('');
const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="60"><rect width="80" height="60" fill="#246"/></svg>';

/** An archive of some files by their names. */
const zipOf = (files: ReadonlyMap<string, Buffer>, compress = false): Promise<Buffer> => {
  const zip = new ZipFile();
  for (const [name, bytes] of files) zip.addBuffer(bytes, name, { compress });
  zip.end();
  return buffer(zip.outputStream);
};

const bundleOf = async (server: TestServer, lesson: string): Promise<Buffer> => {
  const answer = await fetch(`${server.url}/api/lessons/${lesson}/archive.zip`);
  return Buffer.from(await answer.arrayBuffer());
};

let count = 0;
/** Brings an archive in as the app does. @returns how it came out */
const bringIn = async (server: TestServer, archive: Buffer) => {
  const id = `archive-${++count}`;
  await server.ask('POST', '/api/lesson-archives', { id });
  await server.upload(id, archive);
  let state = (await server.ask('POST', `/api/lesson-archives/${id}/open`)).json;
  while (state.state === 'opening') {
    await new Promise((resolve) => setTimeout(resolve, 30));
    state = (await server.ask('GET', `/api/lesson-archives/${id}`)).json;
  }
  return state as { id: string; state: string; lessonId: string | null; problem: string | null };
};

/** Waits until all of a lesson is ready. */
const ready = async (server: TestServer, lesson: string) => {
  const { takes } = (await server.ask('GET', `/api/lessons/${lesson}`)).json.lesson;
  for (const { id } of takes) expect(await server.ingested(id)).toBe('ready');
  for (;;) {
    const materials = (await server.ask('GET', `/api/lessons/${lesson}/materials`)).json;
    if (materials.every(({ state }: { state: string }) => state === 'ready')) return materials;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

/** An archive's bytes go right after what came of it is told. */
async function nothingIsLeft(): Promise<void> {
  const left = () => readdir(to.config.folders.incoming);
  const until = Date.now() + 10_000;
  while ((await left()).length > 0 && Date.now() < until) {
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  expect(await left()).toEqual([]);
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-bundles-'));
  const readerScript = builtScript('reader/reader-process.mjs');
  from = await startTestServer({ readerScript });
  to = await startTestServer({ readerScript });
  await from.ask('POST', '/api/lessons', { id: LESSON, title: 'Springs and neaps' });
  const made = async (name: string, ...args: string[]) => {
    const path = join(folder, name);
    await run('ffmpeg', ['-f', 'lavfi', ...args, path]);
    return readFile(path);
  };
  const picture = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-g', '30'];
  const surface = await made('surface.mp4', ...['-i', 'testsrc2=s=320x180:r=30:d=2'], ...picture);
  const voice = await made('voice.mp4', ...['-i', 'sine=f=220:d=2', '-c:a', 'libopus']);
  // A film whose picture has to be encoded anew, with a sound of its own.
  const film = await made(
    'film.webm',
    ...['-i', 'testsrc2=s=160x90:r=25:d=1', '-f', 'lavfi', '-i', 'sine=f=330:d=1'],
    ...['-c:v', 'libvpx', '-c:a', 'libopus'],
  );
  const takes = [
    { id: 'take-screen', source: 'screen', of: { surface, voice, ink: Buffer.from(INK) } },
    { id: 'take-brought', source: 'film', of: { surface: film } },
  ] as const;
  for (const { id, source, of } of takes) {
    const tracks = Object.keys(of).map((kind) => ({ id: `${id}-${kind}`, kind }));
    const body = { id, source, practice: false, tracks };
    expect((await from.ask('POST', `/api/lessons/${LESSON}/takes`, body)).status).toBe(200);
    for (const [kind, bytes] of Object.entries(of)) await from.upload(`${id}-${kind}`, bytes);
    await from.ask('POST', `/api/takes/${id}/stop`, {});
    expect(await from.ingested(id)).toBe('ready');
  }
  const material = { id: 'material-sheet', name: 'Sheet.SVG' };
  await from.ask('POST', `/api/lessons/${LESSON}/materials`, material);
  await from.upload(material.id, Buffer.from(SVG));
  await from.ask('POST', `/api/materials/${material.id}/read`, {});
  await ready(from, LESSON);
  await from.edit(LESSON, { do: 'cut', takeId: 'take-screen', startUs: 400_000, endUs: 900_000 });
  whole = await bundleOf(from, LESSON);
  document = readArchiveText((await filesIn(whole)).get('lesson.json')!.toString());
});
afterAll(async () => {
  await from.remove();
  await to.remove();
  await rm(folder, { recursive: true, force: true });
});

it('is the same lesson on another server, and its archive the same to the byte', async () => {
  expect(await bringIn(to, whole)).toMatchObject({ state: 'in', lessonId: LESSON });
  await ready(to, LESSON);
  const again = await bundleOf(to, LESSON);
  const [files, before] = [await filesIn(again), await filesIn(whole)];
  expect([...files.keys()]).toEqual([...before.keys()]);
  expect(files.get('lesson.json')!.toString()).toBe(before.get('lesson.json')!.toString());
  expect(again.equals(whole)).toBe(true);
  // What came in was needed only until it was made ready.
  await nothingIsLeft();
  expect(existsSync(to.parts.media.levels('take-screen'))).toBe(true);
});

it('goes beside the lesson that it was saved from, under other names', async () => {
  const { lessonId } = await bringIn(from, whole);
  expect(lessonId).not.toBe(LESSON);
  await ready(from, lessonId!);
  const [one, other] = await Promise.all(
    [LESSON, lessonId].map(async (id) => (await from.ask('GET', `/api/lessons/${id}`)).json.lesson),
  );
  expect(other.decisions.plan).toEqual(one.decisions.plan);
  expect(other.takes.map(({ id }: { id: string }) => id)).not.toEqual(
    one.takes.map(({ id }: { id: string }) => id),
  );
  const cutsOf = (of: any) => of.decisions.cuts.map(({ startUs, endUs }: any) => [startUs, endUs]);
  expect(cutsOf(other)).toEqual(cutsOf(one));
  expect(other.decisions.cuts[0].takeId).toBe(other.takes[0].id);
});

describe('what is not as it should be is told in a sentence, and nothing of it stays', () => {
  const changed = async (change: (files: Map<string, Buffer>) => void, compress = false) => {
    const files = await filesIn(whole);
    change(files);
    return zipOf(files, compress);
  };
  const withDocument = (change: (of: any) => void) =>
    changed((files) => {
      const plain = JSON.parse(archiveText(document));
      change(plain);
      files.set('lesson.json', Buffer.from(JSON.stringify(plain)));
    });
  const media = () => `media/${document.takes[0]!.tracks[0]!.id}.mp4`;
  const cases: [string, string, () => Promise<Buffer>][] = [
    ['no archive', 'archive-unreadable', async () => Buffer.from('not a zip at all')],
    [
      'an archive of something else',
      'archive-unreadable',
      () => zipOf(new Map([['a.txt', Buffer.from('a')]])),
    ],
    [
      'one that is cut short',
      'archive-unreadable',
      async () => whole.subarray(0, whole.length - 400),
    ],
    [
      'one with damage in it',
      'archive-',
      async () => {
        const broken = Buffer.from(whole);
        broken.fill(7, broken.indexOf('mdat') + 10, broken.indexOf('mdat') + 90);
        return broken;
      },
    ],
    ['a track that is missing', 'archive-lacking', () => changed((files) => files.delete(media()))],
    [
      'a material that is another',
      'archive-lacking',
      () =>
        changed((files) =>
          files.set(
            [...files.keys()].find((name) => name.startsWith('materials/'))!,
            Buffer.from('<svg/>'),
          ),
        ),
    ],
    [
      'a name that leads elsewhere',
      'archive-unreadable',
      async () => {
        const bytes = await changed((files) => files.set('aa/etc/passwd', Buffer.from('x')));
        return Buffer.from(
          bytes.toString('latin1').replaceAll('aa/etc/passwd', '../etc/passwd'),
          'latin1',
        );
      },
    ],
    [
      'ids that lead elsewhere',
      'archive-unreadable',
      () => withDocument((of) => (of.takes[0].tracks[0].id = '../../etc/passwd')),
    ],
    [
      'two takes of one name',
      'archive-unreadable',
      () => withDocument((of) => of.takes.push(of.takes[0])),
    ],
    [
      'a time that is none',
      'archive-unreadable',
      () => withDocument((of) => (of.takes[0].recordedAt = 'yesterday')),
    ],
    ['a later version', 'archive-newer', () => withDocument((of) => (of.version = 3 as 2))],
    [
      'a document that is none',
      'archive-unreadable',
      () => changed((files) => files.set('lesson.json', Buffer.from('{'))),
    ],
    [
      'edits of unknown kinds',
      'archive-unreadable',
      () => withDocument((of) => (of.edits[0].edit.do = 'run')),
    ],
    [
      'what swells',
      'archive-swollen',
      () => changed((files) => files.set('ink/swollen.ndjson', Buffer.alloc(90_000_000)), true),
    ],
  ];
  it.each(cases)('%s', async (_name, problem, archive) => {
    const before = (await to.ask('GET', '/api/lessons')).json.length;
    const came = await bringIn(to, await archive());
    expect([came.state, came.lessonId]).toEqual(['refused', null]);
    expect(came.problem).toContain(problem);
    expect((await to.ask('GET', '/api/lessons')).json.length).toBe(before);
    await nothingIsLeft();
  });

  it('what takes call themselves is a film, or nothing: its bytes are looked at all the same', async () => {
    // As a lesson of its own, with bytes that are no film but have the digest that is told.
    const id = 'take-liar';
    const bytes = Buffer.from('#EXTM3U\n/etc/passwd\n');
    const { createHash } = await import('node:crypto');
    const digest = createHash('sha256').update(bytes).digest('hex');
    const take = {
      ...document.takes[0]!,
      id,
      tracks: [{ ...document.takes[0]!.tracks[0]!, id: `${id}-x`, digest }],
    };
    const lying = { ...document, lessonId: 'lesson-liar', takes: [take], materials: [] };
    const files = new Map([
      ['lesson.json', Buffer.from(archiveText(lying))],
      [`media/${id}-x.mp4`, bytes],
    ]);
    const { lessonId } = await bringIn(to, await zipOf(files));
    expect(await to.ingested(id)).toBe('unusable');
    expect((await to.ask('GET', `/api/lessons/${lessonId}`)).status).toBe(200);
  });
});

it('takes no bytes that nobody said would come, and opens none before all are here', async () => {
  expect(await to.upload('archive-unknown', Buffer.from('x'))).toBe(404);
  expect((await to.ask('POST', '/api/lesson-archives/archive-unknown/open')).status).toBe(404);
  await to.ask('POST', '/api/lesson-archives', { id: 'archive-half' });
  await to.upload('archive-half', whole.subarray(0, 1000), 1000, 'part');
  const { status, json } = await to.ask('POST', '/api/lesson-archives/archive-half/open');
  expect([status, json.code]).toEqual([409, 'not-ready']);
});
