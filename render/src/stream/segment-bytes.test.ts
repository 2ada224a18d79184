import { joined } from '@under-chalk/core/mp4/box';
import { pictureSegments, soundSegments } from '@under-chalk/core/stream/segments';
import { filmOf } from '@under-chalk/core/film/film';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';
import { PieceCache } from '../film/cache';
import { chunkPath, renderFilm, soundPath } from '../film/render-film';
import { planFilm, type FilmPlan } from '../plan/plan-film';
import { halfSize, makeFootage } from '../testing/footage';
import { encodedStill } from './encoded-still';
import { makeRendition } from './rendition';
import {
  codecOf,
  pictureHead,
  pictureSegmentIn,
  readFilmIndex,
  segmentOfChunk,
  segmentOfPiece,
  soundHead,
  soundSegmentIn,
} from './segment-bytes';

jest.setTimeout(120_000);

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const SIZE = { widthPx: 640, heightPx: 360 };
const take = halfSize(takeOfLength('take-one', s(14)));
/** Two cuts, two layouts with a soft change between, and a card: chunks of every render path. */
const lesson = lessonOf([take], {
  cuts: [{ takeId: take.id, startUs: s(3.1), endUs: s(4.4) }],
  layouts: [
    {
      ...{ takeId: take.id, startUs: s(6), endUs: s(9) },
      layout: { ...DEFAULT_LAYOUT, kind: 'camera' },
    },
  ],
});

let folder: string;
let film: string;
let plan: FilmPlan;
let cache: PieceCache;
let mediaOf: (trackId: string) => MediaFile;
const dividedOf = () => {
  const { chunks, sound } = plan.manifest;
  const of = {
    chunks: chunks.map(({ frames }) => frames),
    sound: sound.map(({ frames }) => frames),
  };
  return { pictures: pictureSegments(of), sound: soundSegments(of) };
};
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-stream-'));
  mediaOf = await makeFootage(folder, take, 14);
  cache = new PieceCache(join(folder, 'cache'));
  plan = await planFilm(filmOf(lesson), SIZE, 'Tide heights');
  film = join(folder, 'film.mp4');
  await renderFilm({ plan, mediaOf, cache, out: film });
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Frames that ffmpeg decodes, as strictly as it can: time and checksum of each. */
const decoded = async (path: string, of: 'v' | 'a'): Promise<string[]> => {
  const strict = ['-xerror', '-err_detect', 'explode', '-i', path, '-map', `0:${of}:0`];
  const listed = await run('ffmpeg', [...strict, '-f', 'framecrc', 'pipe:1']);
  return listed
    .toString('latin1')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'));
};
const sumsOf = (lines: readonly string[]) => lines.map((line) => line.split(',').at(-1)!.trim());
const samplesOf = async (path: string): Promise<Float32Array> => {
  const pcm = await run('ffmpeg', ['-i', path, '-map', '0:a:0', '-f', 'f32le', 'pipe:1']);
  return new Float32Array(pcm.buffer.slice(pcm.byteOffset, pcm.byteOffset + pcm.length));
};

/** The head as it is known before anything of a film is made. */
const headBefore = async () => {
  const still = join(folder, 'still.mp4');
  await encodedStill(SIZE, still);
  return pictureHead((await readFilmIndex(still)).pictures);
};

it('sounds the same out of pieces and out of the finished film, byte for byte', async () => {
  const index = await readFilmIndex(film);
  const { sound } = dividedOf();
  for (const [number, segment] of sound.entries()) {
    const piece = await readFile(soundPath(cache, plan.manifest.sound[segment.piece]!.key));
    const [a, b] = [
      segmentOfPiece(piece, segment, number),
      await soundSegmentIn(index, segment, number),
    ];
    expect(Buffer.compare(a, b)).toBe(0);
  }
});

it('shows and sounds as the film does, decoded without a warning', async () => {
  const index = await readFilmIndex(film);
  const { pictures, sound } = dividedOf();
  expect(pictures.length).toBeGreaterThan(5);
  const whole = await decoded(film, 'v');
  const [outOfFilm, outOfPieces] = [[await headBefore()], [await headBefore()]];
  for (const segment of pictures) {
    const chunk = await readFile(chunkPath(cache, plan.manifest.chunks[segment.chunk]!.key));
    outOfPieces.push(segmentOfChunk(chunk, segment));
    outOfFilm.push(await pictureSegmentIn(index, segment));
  }
  for (const parts of [outOfFilm, outOfPieces]) {
    const shown = join(folder, 'pictures.mp4');
    await writeFile(shown, joined(...parts));
    const streamed = await decoded(shown, 'v');
    expect(sumsOf(streamed)).toEqual(sumsOf(whole));
    expect(streamed).toHaveLength(plan.manifest.frames);
    // Each frame at its time.
    expect(Number(streamed.at(-1)!.split(',')[1])).toBe(plan.manifest.frames - 1);
  }

  const heard = join(folder, 'sound.mp4');
  const packets = [soundHead()];
  for (const [number, segment] of sound.entries())
    packets.push(await soundSegmentIn(index, segment, number));
  await writeFile(heard, joined(...packets));
  const [a, b] = [await samplesOf(heard), await samplesOf(film)];
  expect(Math.abs(a.length - b.length)).toBeLessThanOrEqual(2 * 1_024);
  let most = 0;
  // But for the first packet, which is faded in.
  for (let at = 2 * 1_024; at < Math.min(a.length, b.length); at++)
    most = Math.max(most, Math.abs(a[at]! - b[at]!));
  expect(most).toBeLessThan(1e-6);
  expect((await decoded(heard, 'a')).length).toBeGreaterThan(100);
});

it('is told what it is encoded with before any of it is made', async () => {
  const before = await headBefore();
  expect(codecOf((await readFilmIndex(film)).pictures)).toBe('avc1.640033');
  const parameters = (entry: Uint8Array) => {
    const at = Buffer.from(entry).indexOf('avcC');
    return Buffer.from(entry).subarray(at, at + 4 + 40);
  };
  for (const { key } of plan.manifest.chunks) {
    const { pictures } = await readFilmIndex(chunkPath(cache, key));
    expect(parameters(pictures.entry)).toEqual(parameters(before));
  }
});

it('is made narrower for slow lines, with segments that begin at the same frames and stand by themselves', async () => {
  const narrow = join(folder, 'narrow.mp4');
  const { pictures } = dividedOf();
  await makeRendition(
    film,
    { widthPx: 1280, heightPx: 720 },
    pictures.map(({ frame }) => frame),
    narrow,
  );
  const index = await readFilmIndex(narrow);
  expect(index.pictures.sizes).toHaveLength(plan.manifest.frames);
  const head = pictureHead(index.pictures);
  for (const segment of pictures) {
    const alone = join(folder, 'alone.mp4');
    await writeFile(alone, joined(head, await pictureSegmentIn(index, segment)));
    expect(await decoded(alone, 'v')).toHaveLength(segment.frames);
  }
});

it('refuses what is no film, and pieces that are other ones', async () => {
  const torn = join(folder, 'torn.mp4');
  await writeFile(torn, (await readFile(film)).subarray(0, 400));
  await expect(readFilmIndex(torn)).rejects.toThrow(RangeError);
  const [first, second] = dividedOf().pictures;
  const chunk = await readFile(chunkPath(cache, plan.manifest.chunks[0]!.key));
  expect(() => segmentOfChunk(chunk, { ...second!, frames: first!.frames + 1 })).toThrow(
    RangeError,
  );
  const piece = await readFile(soundPath(cache, plan.manifest.sound[0]!.key));
  const [sound] = dividedOf().sound;
  expect(() => segmentOfPiece(piece, { ...sound!, packets: 9_999 }, 0)).toThrow(RangeError);
});
