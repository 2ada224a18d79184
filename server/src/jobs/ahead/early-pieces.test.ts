import { FREE_DESTINATION } from '@under-chalk/core/destination/destination';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { chunkPath, PieceCache, run } from '@under-chalk/render';
import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../../testing/built-scripts';
import { asRecorded } from '../../testing/recorded';
import { startTestServer, type TestServer } from '../../testing/test-server';
import { doFilmWork, planOfLesson } from '../film-work';

jest.setTimeout(180_000);

/** Two rounds of what is made ahead, and a little. */
const SECONDS = 28;
const SIZE: PictureSize = 'as-recorded';
let server: TestServer;
let folder: string;
let thread: string;
const recorded = new Map<string, Buffer>();

/** A hand that writes a line a second, from the beginning to the end, and wipes each after four. */
const WRITTEN: InkRecord[] = [
  { at: 0, do: 'page', page: 'page-one', paper: { ruling: 'plain', shade: 'light' } },
  ...Array.from({ length: SECONDS - 1 }, (_, second): InkRecord[] => {
    const [at, stroke] = [second * 1_000_000, `stroke-${second}`];
    const pen = { tool: 'pen', colour: 'red', width: 0.02, stays: 'wiped' } as const;
    return [
      { at, do: 'begin', stroke, pen },
      ...Array.from({ length: 6 }, (_none, part): InkRecord => ({
        at: at + part * 100_000,
        do: 'draw',
        stroke,
        samples: [
          [0, 0.1 + part * 0.1, 0.05 + (second % 10) * 0.05, 0.5],
          [50_000, 0.15 + part * 0.1, 0.06 + (second % 10) * 0.05, 0.5],
        ],
      })),
      { at: at + 650_000, do: 'end', stroke },
      ...(second >= 4
        ? [{ at: at + 700_000, do: 'wipe', strokes: [`stroke-${second - 4}`] } as const]
        : []),
    ];
  }).flat(),
];

beforeAll(async () => {
  thread = builtScript('ahead-thread.mjs');
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-ahead-'));
  const picture = async (kind: string, source: string) => {
    const path = join(folder, `${kind}.mp4`);
    await run('ffmpeg', [
      ...['-f', 'lavfi', '-i', source, '-t', String(SECONDS), '-c:v', 'libx264'],
      ...['-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-bf', '0', '-g', '60', path],
    ]);
    recorded.set(kind, await asRecorded(path));
  };
  await picture('surface', 'testsrc2=s=320x180:r=30');
  // Its pictures come between the film's frames, and so do the fragments that begin with one.
  await picture('camera', 'testsrc2=s=160x90:r=28.7');
  const voice = join(folder, 'voice.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'sine=440:r=48000', '-t', String(SECONDS)],
    ...['-c:a', 'libopus', '-f', 'mp4', voice],
  ]);
  recorded.set('voice', await asRecorded(voice));
  recorded.set('ink', Buffer.from(WRITTEN.map(inkLine).join('')));
});
afterAll(async () => {
  await rm(folder, { recursive: true, force: true });
});

beforeEach(async () => {
  server = await startTestServer({ aheadScript: thread });
  // A small picture: what is made, and when, is the same as of a large one.
  await server.ask('POST', '/api/destinations', { ...FREE_DESTINATION, size: SIZE });
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Ahead of the stop' });
});
afterEach(() => server.remove());

const begin = (kinds: readonly string[]) =>
  server.ask('POST', '/api/lessons/lesson-one/takes', {
    ...{ id: 'take-one', practice: true },
    source: kinds.includes('surface') ? 'screen' : 'board',
    tracks: kinds.map((kind) => ({ id: `take-one-${kind}`, kind })),
  });
/** Sends what there is of the tracks from one share of each up to another. */
const come = async (kinds: readonly string[], from: number, share: number) => {
  for (const kind of kinds) {
    const bytes = recorded.get(kind)!;
    const [start, end] = [Math.floor(bytes.length * from), Math.floor(bytes.length * share)];
    await server.more(`take-one-${kind}`, bytes.subarray(start, end), start, bytes.length);
  }
  await server.parts.takeService.sweep();
};
const tell = (atEase: boolean) => server.ask('POST', '/api/takes/take-one/heartbeat', { atEase });
/** Pieces of pictures that are there. */
const pieces = async () =>
  (await readdir(server.config.folders.chunks).catch(() => [])).filter((name) =>
    name.endsWith('.mp4'),
  );
const until = async (met: () => Promise<boolean>) => {
  for (let tries = 0; tries < 1_200; tries++) {
    if (await met()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('it does not come to that');
};
/** Has it make what it makes of what has come. */
const made = async () => {
  await tell(true);
  // As a recorder does: on a busy machine it takes longer than a word is good for.
  const telling = setInterval(() => void tell(true), 3_000);
  await server.parts.earlyPieces.whenIdle();
  clearInterval(telling);
  return pieces();
};
const stopped = async () => {
  await server.ask('POST', '/api/takes/take-one/stop', {});
  expect(await server.ingested('take-one')).toBe('ready');
  return (await server.parts.lessons.view('lesson-one')).lesson;
};

/** What the pieces of the film of a lesson are kept as. */
const namesOf = async (lesson: Awaited<ReturnType<typeof stopped>>) => {
  const { plan } = await planOfLesson(lesson, SIZE, server.parts.media);
  const cache = new PieceCache(server.config.folders.chunks);
  return plan.manifest.chunks.map(({ key }) => chunkPath(cache, key).split('/').at(-1)!);
};

/** A digest of each picture of a film. */
const picturesOf = async (path: string) =>
  (await run('ffmpeg', ['-i', path, '-map', '0:v:0', '-f', 'framemd5', '-'])).toString();

it.each([
  ['a screen with a camera', ['surface', 'camera', 'voice']],
  ['a screen that is written on', ['surface', 'camera', 'ink', 'voice']],
  ['a board', ['ink', 'voice']],
])(
  'makes the pieces of %s while it is recorded, the very ones that its film has',
  async (_, kinds) => {
    await begin(kinds);
    await come(kinds, 0, 0.5);
    const first = await made();
    expect(first.length).toBeGreaterThan(1);
    // What comes later leaves what was made as it is.
    await come(kinds, 0.5, 0.95);
    const early = await made();
    expect(early.length).toBeGreaterThan(first.length);
    await come(kinds, 0.95, 1);
    const lesson = await stopped();
    const names = await namesOf(lesson);
    const found = names.filter((name) => early.includes(name));
    expect(found).toHaveLength(early.length);
    // All but what lies in the last seconds.
    expect(names.length - found.length).toBeLessThanOrEqual(4);

    if (!kinds.includes('ink') || !kinds.includes('surface')) return;
    const job = { lesson, size: SIZE, folders: server.config.folders };
    const shipped = { fontFile: null, readerScript: '' } as never;
    // What it will take is known by them, nearly: sound is reckoned, and a large share of so small a film.
    const { made: told } = (await server.ask('GET', `/api/lessons/lesson-one/made/${SIZE}`)).json;
    const [one, other] = [join(folder, 'early.mp4'), join(folder, 'late.mp4')];
    const report = await doFilmWork({ ...job, out: one, shipped }, () => undefined);
    expect(report.rendered).toBeLessThan(report.pieces - early.length + 1);
    const { size } = await stat(one);
    expect(Math.abs(told.bytes - size) / size).toBeLessThan(0.2);
    await rm(server.config.folders.chunks, { recursive: true });
    expect((await server.ask('GET', `/api/lessons/lesson-one/made/${SIZE}`)).json.made).toBeNull();
    await doFilmWork({ ...job, out: other, shipped }, () => undefined);
    expect(await picturesOf(one)).toBe(await picturesOf(other));
  },
);

it('makes nothing while the recorder leaves pictures out, and goes on when it has time again', async () => {
  const kinds = ['surface', 'voice'];
  await begin(kinds);
  await come(kinds, 0, 0.9);
  await tell(false);
  await new Promise((resolve) => setTimeout(resolve, 1_000));
  expect(await pieces()).toEqual([]);
  await tell(true);
  await until(async () => (await pieces()).length > 0);
  await tell(false);
  const then = (await pieces()).length;
  await new Promise((resolve) => setTimeout(resolve, 1_000));
  expect((await pieces()).length).toBe(then);
  expect(then).toBeLessThan(8);
  expect((await made()).length).toBeGreaterThan(then);
  expect(server.logged).toEqual([]);
});

it('ends with the take: what came is processed, and nothing is left behind', async () => {
  const kinds = ['surface', 'voice'];
  await begin(kinds);
  await come(kinds, 0, 0.9);
  await tell(true);
  await until(async () => (await pieces()).length > 0);
  await come(kinds, 0.9, 1);
  await stopped();
  const { media } = server.config.folders;
  expect((await readdir(media)).filter((name) => name.endsWith('.draft'))).toEqual([]);
  expect(server.logged).toEqual([]);
  // Nobody is at it any more: telling so changes nothing.
  await tell(true);
  const names = await pieces();
  await new Promise((resolve) => setTimeout(resolve, 500));
  expect(await pieces()).toEqual(names);
});
