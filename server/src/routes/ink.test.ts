import { PAPER_COLOURS, INK_COLOURS, type Pen } from '@under-chalk/core/ink/pen';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { loadImage, createCanvas } from '@napi-rs/canvas';
import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

let server: TestServer;
let folder: string;
const LESSON = 'lesson-board';

const pen: Pen = { tool: 'pen', colour: 'red', width: 0.02, stays: 'wiped' };
const paper = { ruling: 'plain', shade: 'light' } as const;
/** A line across the middle of the page, drawn from the second second to the fourth, wiped at six, on page one. */
const WRITTEN: InkRecord[] = [
  { at: 0, do: 'page', page: 'page-one', paper },
  { at: 2_000_000, do: 'begin', stroke: 'stroke-one', pen },
  ...Array.from({ length: 20 }, (_, part): InkRecord => ({
    at: 2_000_000 + part * 100_000,
    do: 'draw',
    stroke: 'stroke-one',
    samples: Array.from({ length: 10 }, (_none, n) => [
      n === 0 ? 0 : 10_000,
      0.1 + (part * 10 + n) * 0.004,
      0.28,
      0.5,
    ]),
  })),
  { at: 4_000_000, do: 'end', stroke: 'stroke-one' },
  { at: 6_000_000, do: 'wipe', strokes: ['stroke-one'] },
];
const TEXT = WRITTEN.map(inkLine).join('');

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-ink-'));
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'The rule of twelfths' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const begin = (id: string, ...kinds: string[]) =>
  server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id, source: 'board', practice: false },
    tracks: kinds.map((kind) => ({ id: `${id}-${kind}`, kind })),
  });
const stopped = async (id: string): Promise<Take> => {
  await server.ask('POST', `/api/takes/${id}/stop`, {});
  await server.ingested(id);
  return server.parts.takes.get(id);
};

/** The colour at a place of a picture file, `#rrggbb`; the place in fractions. */
const colourAt = async (path: string, x: number, y: number): Promise<string> => {
  const image = await loadImage(path);
  const canvas = createCanvas(image.width, image.height);
  const context = canvas.getContext('2d');
  context.drawImage(image, 0, 0);
  const at = [Math.round(x * image.width), Math.round(y * image.height)] as const;
  const { data } = context.getImageData(...at, 1, 1);
  return `#${[...data.subarray(0, 3)].map((one) => one.toString(16).padStart(2, '0')).join('')}`;
};
/** Whether two colours are the same, but for what an encoder does to them. */
const near = (one: string, other: string): boolean =>
  [1, 3, 5].every(
    (at) =>
      Math.abs(
        Number.parseInt(one.slice(at, at + 2), 16) - Number.parseInt(other.slice(at, at + 2), 16),
      ) < 24,
  );

it('processes what was written, gives it back record by record, and shows it in a still', async () => {
  await begin('take-board', 'ink', 'voice');
  await server.upload('take-board-ink', Buffer.from(TEXT));
  const voice = join(folder, 'voice.mp4');
  await run('ffmpeg', [
    '-f',
    'lavfi',
    '-i',
    'sine=440',
    '-t',
    '8',
    '-c:a',
    'libopus',
    '-f',
    'mp4',
    voice,
  ]);
  await server.upload('take-board-voice', await readFile(voice));
  const take = await stopped('take-board');
  expect(take).toMatchObject({ state: 'ready', problem: null, source: 'board' });
  const ink = trackOf(take, 'ink')!;
  expect(ink).toMatchObject({ durationUs: 6_000_000, widthPx: 1920, heightPx: 1080 });
  expect(ink.digest).toMatch(/^[0-9a-f]{64}$/);
  const media = await fetch(`${server.url}/api/tracks/take-board-ink/media`);
  expect([media.headers.get('content-type'), await media.text()]).toEqual([
    expect.stringContaining('application/x-ndjson'),
    TEXT,
  ]);
  const still = async (atUs: number) => {
    const answer = await fetch(`${server.url}/api/takes/take-board/still?atUs=${atUs}&size=large`);
    const path = join(folder, `still-${atUs}.jpg`);
    await writeFile(path, Buffer.from(await answer.arrayBuffer()));
    return path;
  };
  // Half of the line at three seconds, all of it at five.
  expect(near(await colourAt(await still(3_000_000), 0.3, 0.498), INK_COLOURS.light.red)).toBe(
    true,
  );
  expect(near(await colourAt(await still(3_000_000), 0.8, 0.498), PAPER_COLOURS.light)).toBe(true);
  expect(near(await colourAt(await still(5_000_000), 0.8, 0.498), INK_COLOURS.light.red)).toBe(
    true,
  );
});

it('shows a still as a lesson has it, where its writing was changed', async () => {
  await server.edit(LESSON, {
    ...{ do: 'change-ink', takeId: 'take-board', strokes: ['stroke-one'] },
    change: { colour: 'green' },
  });
  const colour = async (query: string) => {
    const answer = await fetch(
      `${server.url}/api/takes/take-board/still?atUs=5000000&size=large${query}`,
    );
    const path = join(folder, 'still-changed.jpg');
    await writeFile(path, Buffer.from(await answer.arrayBuffer()));
    return colourAt(path, 0.5, 0.498);
  };
  expect(near(await colour(`&lessonId=${LESSON}&changed=a`), INK_COLOURS.light.green)).toBe(true);
  expect(near(await colour(''), INK_COLOURS.light.red)).toBe(true);
  await server.edit(LESSON, {
    ...{ do: 'change-ink', takeId: 'take-board', strokes: ['stroke-one'] },
    change: { colour: 'red' },
  });
  expect(near(await colour(`&lessonId=${LESSON}&changed=b`), INK_COLOURS.light.red)).toBe(true);
});

it('is painted into the film exactly when it was drawn, also after a cut in the middle of a stroke', async () => {
  await server.edit(LESSON, {
    do: 'cut',
    takeId: 'take-board',
    startUs: 2_500_000,
    endUs: 3_000_000,
  });
  const asked = (await server.ask('POST', `/api/lessons/${LESSON}/films`, { size: '720p' })).json;
  let film = asked;
  while (film.state !== 'done') {
    await new Promise((resolve) => setTimeout(resolve, 100));
    film = (await server.ask('GET', `/api/lessons/${LESSON}/films`)).json[0];
    expect(film.state).not.toBe('failed');
  }
  const frame = async (filmUs: number) => {
    const path = join(folder, `film-${filmUs}.png`);
    await run('ffmpeg', [
      ...['-i', server.parts.media.film(film.id), '-ss', String(filmUs / 1e6)],
      ...['-frames:v', '1', '-update', '1', path],
    ]);
    return path;
  };
  const inked = async (filmUs: number, x: number) =>
    near(await colourAt(await frame(filmUs), x, 0.498), INK_COLOURS.light.red);
  // Nothing before it was begun; the hand is at a quarter when the cut comes, and beyond the half after it.
  expect(await inked(1_900_000, 0.12)).toBe(false);
  expect(await inked(2_450_000, 0.2)).toBe(true);
  expect(await inked(2_450_000, 0.4)).toBe(false);
  expect(await inked(2_550_000, 0.4)).toBe(true);
  expect(await inked(2_550_000, 0.6)).toBe(false);
  expect(await inked(5_400_000, 0.85)).toBe(true);
  // Wiped at six seconds, which is half a second earlier in the film.
  expect(await inked(5_550_000, 0.85)).toBe(false);
  expect(near(await colourAt(await frame(5_550_000), 0.85, 0.498), PAPER_COLOURS.light)).toBe(true);
});

it('keeps what is whole of a track that was torn off, and what came in for the rest', async () => {
  await begin('take-torn', 'ink');
  await server.upload(
    'take-torn-ink',
    Buffer.from(TEXT.slice(0, TEXT.length - 30)),
    undefined,
    'part',
  );
  const torn = await stopped('take-torn');
  expect(torn).toMatchObject({ state: 'ready', cutShort: true });
  expect(torn.durationUs).toBe(4_000_000);
  await server.more('take-torn-ink', Buffer.from(TEXT.slice(-30)), TEXT.length - 30, TEXT.length);
  expect((await stopped('take-torn')).durationUs).toBe(6_000_000);
});

it('makes nothing of a track that is no ink', async () => {
  await begin('take-hostile', 'ink');
  await server.upload(
    'take-hostile-ink',
    Buffer.from('\0\u0001 no ink {"do":"page"}\n'.repeat(2_000)),
  );
  expect(await stopped('take-hostile')).toMatchObject({ state: 'unusable', problem: 'take-empty' });
});
