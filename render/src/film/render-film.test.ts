import { filmOf, type Film } from '@under-chalk/core/film/film';
import { DEFAULT_LAYOUT, type LayoutKind } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { mkdtemp, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas } from '@napi-rs/canvas';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { NEW_FRAME } from '@under-chalk/core/lesson/frame';
import { FIRST_WATERMARK } from '@under-chalk/core/lesson/watermark';
import { FIRST_LOOK } from '@under-chalk/core/pointer/look';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import type { InkTool, Staying } from '@under-chalk/core/ink/pen';
import type { InkRecord, InkSample } from '@under-chalk/core/ink/record';
import { run, type MediaFile } from '../ffmpeg/run';
import { pointedIn } from '../paths/pointed';
import { writtenIn } from '../paths/written';
import type { ChunkWork } from '../plan/chunks';
import { planFilm } from '../plan/plan-film';
import { encodedStill } from '../stream/encoded-still';
import { readFilmIndex } from '../stream/segment-bytes';
import { PACKET } from '../plan/sound';
import { PieceCache } from './cache';
import { beeps, paintedWhole, probe, ssimOf } from '../testing/films';
import { halfSize, makeFootage } from '../testing/footage';
import { renderChunk } from './render-chunk';
import { renderFilm } from './render-film';

jest.setTimeout(120_000);

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const size = { widthPx: 640, heightPx: 360 };
/** For tests that don't depend on the picture size. */
const small = { widthPx: 320, heightPx: 180 };
const take = halfSize(takeOfLength('take-one', s(20)));
const noPage = () => Promise.reject(new Error('no material is shown'));
const cut = (start: number, end: number) => ({ takeId: take.id, startUs: s(start), endUs: s(end) });
const camera = { ...DEFAULT_LAYOUT, kind: 'camera' as const };
const filmWith = (decisions: Partial<Decisions>) => filmOf(lessonOf([take], decisions));

/** A sign of two colours that lets through what lies between. */
const sign = { content: 'c'.repeat(64), page: 0, aspect: 2 };
const signFile = async (_page: unknown, widthPx: number): Promise<string> => {
  const canvas = createCanvas(widthPx, Math.round(widthPx / 2));
  const context = canvas.getContext('2d');
  const [width, height] = [canvas.width, canvas.height];
  context.fillStyle = '#c02020';
  context.fillRect(0, 0, width / 4, height);
  context.fillStyle = '#2040c0';
  context.fillRect(width * 0.75, 0, width / 4, height);
  const path = join(folder, `sign-${widthPx}.png`);
  await writeFile(path, await canvas.encode('png'));
  return path;
};

let folder: string;
let mediaOf: (trackId: string) => MediaFile;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-test-'));
  mediaOf = await makeFootage(folder, take, 20);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Paints a chunk frame by frame, whatever moves in it. */
const paintWhole = (work: ChunkWork, inkOf: InkOf, out: string): Promise<void> =>
  paintedWhole(work, { mediaOf, inkOf, pageFile: signFile }, out);

const make = async (
  decisions: Partial<Decisions>,
  cache: PieceCache,
  name: string,
  { signal, of = small }: { signal?: AbortSignal; of?: SizePx } = {},
) =>
  renderFilm({
    plan: await planFilm(filmWith(decisions), of, 'Tide heights'),
    mediaOf,
    cache,
    out: join(folder, name),
    ...(signal ? { signal } : {}),
  });

describe('the two render paths', () => {
  it.each<[LayoutKind, 'rounded' | 'circle' | 'square-cornered']>([
    ['surface', 'rounded'],
    ['inset', 'rounded'],
    ['inset', 'circle'],
    ['inset', 'square-cornered'],
    ['side', 'rounded'],
    ['camera', 'rounded'],
  ])('agree on %s, %s', async (kind, shape) => {
    const film = filmWith({
      defaultLayout: { kind, inset: { ...DEFAULT_LAYOUT.inset, shape, placeX: 0.3 } },
      cuts: [cut(0, 6.5), cut(7.6, 20)],
    });
    const work = (await planFilm(film, size, '')).chunkWork(0);
    const job = { mediaOf, inkOf: () => null, pageFile: noPage, onFrames: () => undefined };
    const [a, b] = [join(folder, 'filters.mp4'), join(folder, 'painter.mp4')];
    expect(work.renderPath).toBe('filters');
    await renderChunk(work, job, a);
    await renderChunk({ ...work, renderPath: 'painter' }, job, b);
    expect(await probe(a, 'stream=nb_frames')).toBe(await probe(b, 'stream=nb_frames'));
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
  });

  it.each([
    ['beside a camera', 'inset' as const, null],
    ['under a watermark', 'surface' as const, { ...FIRST_WATERMARK, of: sign }],
  ])('agree on what is written %s: drawn, faded, wiped, on another page', async (...of) => {
    const [, kind, watermark] = of;
    const turn = (at: number, page: string): InkRecord => ({
      ...{ at: s(at), do: 'page', page, paper: { ruling: 'squared', shade: 'dark' } },
    });
    /** A wave across a part of the page. */
    const wave = (at: number, id: string, tool: InkTool, x: number, stays: Staying = 'wiped') => {
      const pen = { tool, colour: 'amber', width: 0.012, stays } as const;
      const samples = Array.from({ length: 40 }, (_, n): InkSample => [
        n === 0 ? 0 : 20_000,
        x + n * 0.006,
        0.2 + 0.05 * Math.sin(n / 4),
        0.5,
      ]);
      const records: InkRecord[] = [
        { at: s(at), do: 'begin', stroke: id, pen },
        { at: s(at), do: 'draw', stroke: id, samples },
        { at: s(at + 0.8), do: 'end', stroke: id },
      ];
      return records;
    };
    const pointed = Array.from({ length: 30 }, (_, n): [number, number, number] => [
      n === 0 ? 0 : 20_000,
      0.7 - n * 0.013,
      0.4,
    ]);
    const ink = inkTrackOf([
      turn(0, 'page-one'),
      ...wave(1, 'stroke-pen', 'pen', 0.1),
      ...wave(2, 'stroke-fades', 'highlighter', 0.4, 500_000),
      // Pointed at and pressed between, right to left.
      { at: s(3), do: 'point', samples: pointed },
      { at: s(3.7), do: 'press', x: 0.3, y: 0.4 },
      { at: s(3.8), do: 'release' },
      { at: s(3.9), do: 'away' },
      ...wave(4, 'stroke-arrow', 'arrow', 0.55),
      { at: s(5.2), do: 'wipe', strokes: ['stroke-pen'] },
      turn(6, 'page-two'),
      // Under the face, too.
      ...wave(6.2, 'stroke-two', 'pen', 0.7),
      turn(7.2, 'page-one'),
    ]);
    const facts = { id: 'take-one-ink', kind: 'ink' as const, durationUs: s(20), digest: 'ink' };
    const board = {
      ...take,
      source: 'board' as const,
      tracks: [
        ...take.tracks.filter(({ kind }) => kind === 'camera'),
        { ...facts, widthPx: 1920, heightPx: 1080 },
      ],
    };
    const defaultLayout = { ...DEFAULT_LAYOUT, kind };
    const film = filmOf(lessonOf([board], { defaultLayout, watermark, cuts: [cut(9, 20)] }));
    const inkOf = () => ink;
    const plan = await planFilm(film, size, '', { inkOf });
    const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
    const written = works.filter((work) => writtenIn(work.scenes, size, inkOf));
    expect(written.filter(({ renderPath }) => renderPath === 'painter').length).toBeGreaterThan(2);
    for (const [index, work] of works.entries()) {
      if (work.renderPath === 'filters') continue;
      const [a, b] = [join(folder, `written-${index}.mp4`), join(folder, `painted-${index}.mp4`)];
      await renderChunk(work, { mediaOf, inkOf, pageFile: signFile, onFrames: () => undefined }, a);
      await paintWhole(work, inkOf, b);
      expect(await probe(a, 'stream=nb_frames')).toBe(await probe(b, 'stream=nb_frames'));
      expect([index, (await ssimOf(folder, a, b)) > 0.98]).toEqual([index, true]);
    }
    // It is pointed at in some of them, and nowhere as a whole frame.
    const points = ({ scenes }: (typeof works)[number]) =>
      scenes.some(({ layers }) => layers.some(({ kind }) => kind === 'pointer'));
    expect(written.filter(points).length).toBeGreaterThan(0);
    // What is painted of the first is a part of the frame, and not the whole.
    const [firstMoving] = written.filter(({ renderPath }) => renderPath === 'painter');
    const { box } = writtenIn(firstMoving!.scenes, size, inkOf)!;
    expect(box.width * box.height).toBeLessThan(0.3 * size.widthPx * size.heightPx);
  });

  it('agree where a pointer that was seen moves over the picture, under a camera', async () => {
    const moves = Array.from({ length: 60 }, (_, n) => ({
      ...{ atUs: s(1 + n / 15), x: 0.2 + 0.008 * n, y: 0.25 + 0.06 * Math.sin(n / 6) },
    }));
    const runs = [{ moves, untilUs: s(5.2) }];
    const presses = [{ atUs: s(3), x: 0.4, y: 0.2, untilUs: s(3.1) }];
    const seenOf = () => ({ runs, presses, isSeen: true });
    for (const mark of ['halo', 'spotlight'] as const) {
      const film = filmWith({
        screenPointer: { ...FIRST_LOOK, mark, goesAfterUs: 0 },
        cuts: [cut(0, 2.2), cut(3.9, 20)],
      });
      const plan = await planFilm(film, size, '', { seenOf });
      const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
      const pointed = works.filter(({ renderPath }) => renderPath === 'painter');
      expect(pointed.length).toBeGreaterThan(0);
      for (const [index, work] of pointed.entries()) {
        expect(pointedIn(work.scenes, size)).not.toBeNull();
        const name = join(folder, `${mark}-${index}`);
        const job = { mediaOf, inkOf: () => null, pageFile: noPage, onFrames: () => undefined };
        await renderChunk(work, job, `${name}-laid.mp4`);
        await paintWhole(work, () => null, `${name}-painted.mp4`);
        expect([
          mark,
          (await ssimOf(folder, `${name}-laid.mp4`, `${name}-painted.mp4`)) > 0.98,
        ]).toEqual([mark, true]);
      }
    }
  });

  it.each<['rounded' | 'circle', 'shadow' | 'none', boolean]>([
    ['rounded', 'shadow', true],
    ['circle', 'none', false],
    ['circle', 'shadow', true],
  ])('agree on a face come nearer to: %s, %s, mirrored %s', async (shape, edge, mirrored) => {
    const film = filmWith({
      defaultLayout: { kind: 'inset', inset: { ...DEFAULT_LAYOUT.inset, shape, edge, size: 0.5 } },
      cameraLooks: [{ takeId: take.id, look: { x: 0.3, y: 0.4, near: 1.7, mirrored } }],
      cuts: [cut(0, 6.5), cut(7.6, 20)],
    });
    const work = (await planFilm(film, size, '')).chunkWork(0);
    const job = { mediaOf, inkOf: () => null, pageFile: noPage, onFrames: () => undefined };
    const [a, b] = [join(folder, 'face-filters.mp4'), join(folder, 'face-painter.mp4')];
    expect(work.renderPath).toBe('filters');
    await renderChunk(work, job, a);
    await renderChunk({ ...work, renderPath: 'painter' }, job, b);
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
  });

  it('agree on a part of the surface', async () => {
    // At full size: the two paths smooth an enlarged picture differently.
    const large = takeOfLength('take-one', s(20));
    const sources = await mkdtemp(join(folder, 'large-'));
    const crop = { x: 0.31, y: 0.12, width: 0.55, height: 0.53 };
    const film = filmOf(
      lessonOf([large], {
        crops: [{ takeId: take.id, crop }],
        cuts: [cut(0, 6.5), cut(7.6, 20)],
      }),
    );
    const work = (await planFilm(film, size, '')).chunkWork(0);
    const job = {
      ...{ mediaOf: await makeFootage(sources, large, 20), inkOf: () => null, pageFile: noPage },
      onFrames: () => undefined,
    };
    const [a, b] = [join(folder, 'part-filters.mp4'), join(folder, 'part-painter.mp4')];
    expect(work.renderPath).toBe('filters');
    await renderChunk(work, job, a);
    await renderChunk({ ...work, renderPath: 'painter' }, job, b);
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
    // And it is a part: the whole picture is another chunk.
    const key = async (of: Film) => (await planFilm(of, size, '')).manifest.chunks[0]!.key;
    const whole = filmOf(lessonOf([large], { cuts: [cut(0, 6.5), cut(7.6, 20)] }));
    expect(await key(whole)).not.toBe(await key(film));
  });
});

it('keeps a film finer where that is asked for: closer to what was recorded, and larger', async () => {
  const film = filmWith({});
  const made = async (name: string, of: SizePx) => {
    const work = (await planFilm(film, of, '')).chunkWork(0);
    const out = join(folder, name);
    const job = { mediaOf, inkOf: () => null, pageFile: noPage, onFrames: () => undefined };
    await renderChunk(work, job, out);
    return { out, bytes: (await stat(out)).size };
  };
  const usual = await made('usual.mp4', size);
  const finer = await made('finer.mp4', { ...size, finer: true });
  expect(finer.bytes).toBeGreaterThan(1.2 * usual.bytes);
  expect(await ssimOf(folder, usual.out, finer.out)).toBeGreaterThan(0.97);
  const key = async (of: SizePx) => (await planFilm(film, of, '')).manifest.chunks[0]!.key;
  expect(await key({ ...size, finer: true })).not.toBe(await key(size));
  // What describes it is known beforehand, as of all films.
  const still = join(folder, 'finer-still.mp4');
  await encodedStill({ ...size, finer: true }, still);
  const decoderOf = async (path: string) => {
    const entry = Buffer.from((await readFilmIndex(path)).pictures.entry);
    const at = entry.indexOf('avcC') - 4;
    return entry.subarray(at, at + entry.readUInt32BE(at)).toString('hex');
  };
  expect(await decoderOf(still)).toBe(await decoderOf(finer.out));
  expect(await decoderOf(finer.out)).not.toBe(await decoderOf(usual.out));
});

describe('a page that lies in the frame', () => {
  const job = () => ({
    ...{ mediaOf, inkOf: () => null, pageFile: signFile, onFrames: () => undefined },
  });
  const watermark = { ...FIRST_WATERMARK, of: sign, placeX: 0, size: 0.3, strength: 1 };
  const cutaways = [{ ...cut(5, 10), of: sign }];
  /** The colour of a place of a film's first frame. */
  const colourAt = async (file: string, x: number, y: number): Promise<number[]> => {
    const part = `crop=8:8:${Math.round(x * 640)}:${Math.round(y * 360)},scale=1:1:flags=area`;
    const args = ['-i', file, '-frames:v', '1', '-vf', `${part},format=rgb24`];
    return [...(await run('ffmpeg', [...args, '-f', 'rawvideo', 'pipe:1']))];
  };

  it.each<[string, Partial<Decisions>, number]>([
    ['a watermark over surface and camera', { watermark }, 2],
    ['a cutaway', { cutaways }, 0],
    [
      'words over all of it',
      { watermark: { ...watermark, of: { text: 'Lantern Quay, week four' } } },
      2,
    ],
    ['both', { watermark, cutaways }, 0],
    [
      'a line of words, under a watermark',
      {
        watermark,
        textOverlays: [
          { ...cut(5, 10), textOverlay: { text: 'Springs and neaps', place: 'bottom' as const } },
        ],
      },
      2,
    ],
    [
      'room round it, rounded, on a gradient',
      {
        watermark,
        frame: {
          ...{ shape: '4:3' as const, margin: 0.06, rounding: 0.05 },
          ground: { is: 'gradient' as const, from: '#22384d', to: '#8a4f4a' },
        },
      },
      2,
    ],
    [
      'room round it, on a picture that fills the frame',
      {
        watermark,
        frame: { ...NEW_FRAME, margin: 0.1, ground: { is: 'page' as const, of: sign } },
      },
      2,
    ],
  ])('looks the same on both render paths: %s', async (name, decisions, pictures) => {
    const film = filmWith({ ...decisions, cuts: [cut(0, 6.5), cut(7.6, 20)] });
    const work = (await planFilm(film, size, '')).chunkWork(0);
    expect(work.renderPath).toBe('filters');
    // What was recorded is not even opened where it isn’t seen.
    expect(work.tracks).toHaveLength(pictures);
    const [a, b] = [join(folder, `${name}-a.mp4`), join(folder, `${name}-b.mp4`)];
    await renderChunk(work, job(), a);
    await renderChunk({ ...work, renderPath: 'painter' }, job(), b);
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
    const isNear = (colour: number[], wanted: number[]) =>
      colour.every((value, index) => Math.abs(value - wanted[index]!) < 24);
    if ('frame' in decisions || name.startsWith('words')) return;
    if ('watermark' in decisions) {
      // Red at its left; in its middle what lies under it.
      expect(isNear(await colourAt(a, 0.05, 0.15), [0xc0, 0x20, 0x20])).toBe(true);
    } else {
      // Twice as wide as high: whole, in the middle, on white.
      expect(isNear(await colourAt(a, 0.1, 0.5), [0xc0, 0x20, 0x20])).toBe(true);
      expect(isNear(await colourAt(a, 0.5, 0.5), [0xff, 0xff, 0xff])).toBe(true);
      expect(isNear(await colourAt(a, 0.5, 0.02), [0x20, 0x29, 0x2f])).toBe(true);
    }
  });

  it('has borders where it comes and goes, and nothing else of the film is made anew', async () => {
    const keys = async (decisions: Partial<Decisions>) =>
      (await planFilm(filmWith(decisions), size, '')).manifest.chunks.map(({ key }) => key);
    const [plain, cutAway] = [await keys({}), await keys({ cutaways })];
    const kept = cutAway.filter((key) => plain.includes(key));
    // Of twenty seconds in pieces of 2.67 s, five are covered: at most the two pieces at its ends are divided.
    expect(kept.length).toBeGreaterThanOrEqual(plain.length - 4);
    expect(cutAway).not.toEqual(plain);
  });
});

describe('a close-up', () => {
  const part = { x: 0.317, y: 0.211, width: 0.13, height: 0.11 };
  const close = { ...cut(5, 10), closeUp: { part, pace: 'quick' as const } };
  const job = () => ({
    ...{ mediaOf, inkOf: () => null, pageFile: noPage, onFrames: () => undefined },
  });

  it('looks the same on both render paths, beside a camera', async () => {
    const film = filmWith({ closeUps: [close], cuts: [cut(0, 6.5), cut(7.6, 20)] });
    const plan = await planFilm(film, size, '');
    const work = plan.chunkWork(0);
    const [a, b] = [join(folder, 'close-filters.mp4'), join(folder, 'close-painter.mp4')];
    expect(work.renderPath).toBe('filters');
    await renderChunk(work, job(), a);
    await renderChunk({ ...work, renderPath: 'painter' }, job(), b);
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
  });

  it('is painted only while it comes closer or goes back, and doesn’t jump where it comes to stand', async () => {
    const film = filmWith({ closeUps: [close], cuts: [cut(0, 4), cut(11, 20)] });
    const plan = await planFilm(film, size, '');
    const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
    // Whatever the grid that pieces are cut to.
    const renderPaths: [string, number][] = [];
    for (const { renderPath, scenes } of works) {
      const last = renderPaths.at(-1);
      if (last?.[0] === renderPath) last[1] += scenes.length;
      else renderPaths.push([renderPath, scenes.length]);
    }
    expect(renderPaths).toEqual([
      ...[
        ['filters', 30],
        ['painter', 9],
        ['filters', 141],
        ['painter', 9],
        ['filters', 21],
      ],
    ]);
    // The last that was painted is nearly what stands, and the whole is far from it.
    const still = async (work: ChunkWork, name: string, last: boolean) => {
      const [file, out] = [join(folder, `${name}.mp4`), join(folder, `${name}.png`)];
      await renderChunk(work, job(), file);
      const pick = last ? `select=eq(n\\,${work.scenes.length - 1})` : 'null';
      await run('ffmpeg', ['-y', '-i', file, '-vf', pick, '-frames:v', '1', out]);
      return out;
    };
    const going = await still(works[1]!, 'going', true);
    const stands = await still(works[2]!, 'stands', false);
    const whole = await still(works[0]!, 'whole', true);
    expect(await ssimOf(folder, going, stands)).toBeGreaterThan(0.8);
    expect(await ssimOf(folder, whole, stands)).toBeLessThan(0.75);
  });
});

describe('a film', () => {
  const decisions = {
    cuts: [cut(0, 0.5), cut(8.25, 11.25)],
    layouts: [{ ...cut(14, 16), layout: camera }],
  };

  it('has the frames, the sound and the form that were asked for', async () => {
    const cache = new PieceCache(join(folder, 'cache-a'));
    await make(decisions, cache, 'a.mp4');
    const path = join(folder, 'a.mp4');
    const streams = await probe(path, 'stream=codec_name,profile,pix_fmt,width,height,nb_frames');
    expect(streams).toContain('h264,High,320,180,yuv420p,495');
    expect(streams).toContain('aac');
    expect(Number(await probe(path, 'format=duration'))).toBeCloseTo(16.5, 1);
    // Every frame comes exactly one frame after the last, over all joins.
    const pts = (await probe(path, 'packet=pts_time,stream_index'))
      .split('\n')
      .filter((line) => line.startsWith('0,'))
      .map((line) => Number(line.split(',')[1]))
      .sort((a, b) => a - b);
    pts.forEach((time, frame) => expect(time).toBeCloseTo(frame / 30, 4));
    // Beeps at whole recorded seconds: 1…8, then 12…19, moved up by what was cut before them.
    const expected = [1, 2, 3, 4, 5, 6, 7, 8]
      .map((at) => at - 0.5)
      .concat([12, 13, 14, 15, 16, 17, 18, 19].map((at) => at - 3.5));
    const found = await beeps(path);
    expect(found).toHaveLength(expected.length);
    // Each stretch lies on the packets of its recording: half a packet off at most (`plan/sound`).
    const most = PACKET / 48_000 / 2 + 0.004;
    found.forEach((at, index) => expect(Math.abs(at - expected[index]!)).toBeLessThan(most));
    // Fast start: the index comes before the media.
    const head = await readFile(path);
    expect(head.indexOf('moov')).toBeLessThan(head.indexOf('mdat'));
  });

  it('has the points that were ticked off as its chapters', async () => {
    const topics = ['What it is', 'How = it; works'].map((text, rank) => ({
      ...{ id: `point-${rank}`, text, show: '', words: '', rank },
    }));
    const topicsDone = [
      { topicId: 'point-0', takeId: take.id, atUs: s(5.5) },
      { topicId: 'point-1', takeId: take.id, atUs: s(18) },
    ];
    const cache = new PieceCache(join(folder, 'cache-a'));
    await make({ ...decisions, topics, topicsDone }, cache, 'chapters.mp4');
    const path = join(folder, 'chapters.mp4');
    const chapters = await probe(path, 'chapter=start_time,end_time:chapter_tags=title');
    expect(chapters.trim().split('\n')).toEqual([
      '0.000000,5.000000,What it is',
      '5.000000,16.500000,How = it; works',
    ]);
  });

  it('shows the recorded frame that belongs to each film frame, also after a cut', async () => {
    const cache = new PieceCache(join(folder, 'cache-b'));
    const surface = { ...DEFAULT_LAYOUT, kind: 'surface' as const };
    await make({ defaultLayout: surface, cuts: [cut(2, 5)] }, cache, 'b.mp4', { of: size });
    const still = (path: string, at: number, name: string) =>
      run('ffmpeg', [
        '-ss',
        String(at),
        '-i',
        path,
        '-frames:v',
        '1',
        '-vf',
        'scale=640:360',
        join(folder, name),
      ]);
    await still(join(folder, 'b.mp4'), 4, 'film.png');
    await still(mediaOf('take-one-surface').path, 7, 'same.png');
    await still(mediaOf('take-one-surface').path, 7.0667, 'other.png');
    const same = await ssimOf(folder, join(folder, 'film.png'), join(folder, 'same.png'));
    expect(same).toBeGreaterThan(0.95);
    expect(same).toBeGreaterThan(
      await ssimOf(folder, join(folder, 'film.png'), join(folder, 'other.png')),
    );
  });

  it('is made again from what is there, but for what an edit touched', async () => {
    const cache = new PieceCache(join(folder, 'cache-c'));
    const first = await make(decisions, cache, 'c.mp4');
    expect(first.rendered).toBe(first.pieces);
    expect((await make(decisions, cache, 'c.mp4')).rendered).toBe(0);
    const edited = { ...decisions, cuts: [...decisions.cuts, cut(17, 18)] };
    // A chunk on either side of it, and the sound.
    expect((await make(edited, cache, 'c2.mp4')).rendered).toBeLessThanOrEqual(3);
  });

  it('goes on where it was broken off, and leaves no half film', async () => {
    const cache = new PieceCache(join(folder, 'cache-d'));
    const stop = new AbortController();
    const running = renderFilm({
      plan: await planFilm(filmWith({}), small, ''),
      mediaOf,
      cache,
      out: join(folder, 'd.mp4'),
      signal: stop.signal,
      onProgress: ({ done }) => {
        if (done > 0.5) stop.abort(new Error('called off'));
      },
    });
    await expect(running).rejects.toThrow('called off');
    expect(await readdir(folder)).not.toContain('d.mp4');
    const kept = (await readdir(join(folder, 'cache-d'))).filter(
      (name) => !name.startsWith('draft'),
    );
    expect(kept.length).toBeGreaterThan(0);
    const again = await make({}, cache, 'd.mp4');
    expect(again.rendered).toBe(again.pieces - kept.length);
  });

  it('says when footage is missing, and when there is nothing to show', async () => {
    const cache = new PieceCache(join(folder, 'cache-e'));
    await expect(make({ cuts: [cut(0, 20)] }, cache, 'e.mp4')).rejects.toThrow(RangeError);
    await expect(
      renderFilm({
        plan: await planFilm(filmWith({}), size, ''),
        mediaOf: () => ({ path: join(folder, 'gone.mp4'), demuxer: 'mov' }),
        cache,
        out: join(folder, 'e.mp4'),
      }),
    ).rejects.toThrow('No such file');
  });

  it('holds the last picture of a camera that ends before its take, inset and while it moves', async () => {
    const short = join(folder, 'short-camera.mp4');
    await run('ffmpeg', [
      ...[
        '-i',
        mediaOf(take.tracks[1]!.id).path,
        '-t',
        '3',
        '-c:v',
        'libx264',
        '-preset',
        'ultrafast',
      ],
      ...['-pix_fmt', 'yuv420p', short],
    ]);
    const early = {
      ...take,
      tracks: take.tracks.map((track) =>
        track.kind === 'camera' ? { ...track, durationUs: s(3) } : track,
      ),
    };
    // The camera alone, past its end an inset by filters, soft changes by the painter, and it alone again.
    const decisions = {
      layouts: [
        { takeId: take.id, startUs: 0, endUs: s(5), layout: camera },
        { takeId: take.id, startUs: s(8), endUs: s(20), layout: camera },
      ],
      cuts: [cut(10, 20)],
    };
    const out = join(folder, 'held.mp4');
    await renderFilm({
      plan: await planFilm(filmOf(lessonOf([early], decisions)), size, ''),
      mediaOf: (id) => (id === take.tracks[1]!.id ? { path: short, demuxer: 'mov' } : mediaOf(id)),
      cache: new PieceCache(join(folder, 'cache-held')),
      out,
    });
    expect(await probe(out, 'stream=nb_frames')).toContain('300');
    const still = async (at: number) => {
      const png = join(folder, `at-${at}.png`);
      await run('ffmpeg', ['-ss', String(at), '-i', out, '-frames:v', '1', png]);
      return png;
    };
    const last = await still(2.97);
    expect(await ssimOf(folder, await still(9.9), last)).toBeGreaterThan(0.97);
    expect(await ssimOf(folder, await still(4.5), last)).toBeGreaterThan(0.97);
    expect(await ssimOf(folder, await still(1), last)).toBeLessThan(0.97);
  });

  it('makes a film of sound alone', async () => {
    const sound = {
      ...take,
      id: 'take-snd',
      tracks: take.tracks.filter((x) => x.kind === 'voice'),
    };
    const film = filmOf(lessonOf([sound], { cuts: [{ ...cut(3, 20), takeId: 'take-snd' }] }));
    await renderFilm({
      plan: await planFilm(film, size, 'Before you plot'),
      mediaOf,
      cache: new PieceCache(join(folder, 'cache-f')),
      out: join(folder, 'f.mp4'),
    });
    expect(await probe(join(folder, 'f.mp4'), 'stream=nb_frames')).toContain('90');
    expect((await beeps(join(folder, 'f.mp4'))).length).toBe(3);
  });

  it('has its cover and its licence in the file, and is the same film but for them', async () => {
    const cover = join(folder, 'cover.jpg');
    await run('ffmpeg', ['-f', 'lavfi', '-i', 'testsrc2=s=640x360:d=1', '-frames:v', '1', cover]);
    const cache = new PieceCache(join(folder, 'cache-k'));
    const cuts = [cut(3, 20)];
    const made = async (name: string, decisions: Partial<Decisions>, coverFile: string | null) => {
      const out = join(folder, name);
      const plan = await planFilm(filmWith({ cuts, ...decisions }), size, 'Tides');
      await renderFilm({ plan, mediaOf, cache, out, coverFile: () => Promise.resolve(coverFile) });
      const frames = await run('ffmpeg', [
        ...['-i', out, '-map', '0:v:0', '-map', '0:a:0', '-f', 'framemd5', '-'],
      ]);
      return { out, id: plan.manifest.id, frames: frames.toString() };
    };
    const plain = await made('k-plain.mp4', {}, null);
    const dressed = await made('k.mp4', { licence: { is: 'by-sa' } }, cover);
    expect(dressed.frames).toBe(plain.frames);
    expect(dressed.id).not.toBe(plain.id);
    const told = await probe(dressed.out, 'stream_disposition=attached_pic:format_tags=copyright');
    expect(told).toContain('CC BY-SA 4.0 https://creativecommons.org/licenses/by-sa/4.0/');
    expect(told).toMatch(/(^|=)1$/m);
    const picture = join(folder, 'cover-out.png');
    await run('ffmpeg', ['-i', dressed.out, '-map', '0:v:1', '-frames:v', '1', picture]);
    expect(await ssimOf(folder, picture, cover)).toBeGreaterThan(0.97);
    // What was chosen is part of what names a film: another cover is another file.
    const asTitled = { of: null, titled: true };
    const titled = await planFilm(filmWith({ cuts, cover: asTitled }), size, 'Tides');
    expect(titled.manifest.id).not.toBe(plain.id);
    expect(titled.manifest.chunks).toEqual(
      (await planFilm(filmWith({ cuts }), size, 'Tides')).manifest.chunks,
    );
  });
});

describe('the cache', () => {
  it('keeps what was used last when it grows too large', async () => {
    const cache = new PieceCache(join(folder, 'cache-g'));
    const paths = ['a', 'b', 'c'].map((key) => cache.pathOf(key, 'mp4'));
    for (const [index, path] of paths.entries()) {
      await cache.make(path, (draft) => writeFile(draft, Buffer.alloc(1_000)));
      const atS = Date.now() / 1_000 - 100 + index;
      await utimes(path, atS, atS);
    }
    await cache.has(paths[0]!);
    await cache.prune(2_000);
    expect(await Promise.all(paths.map((path) => cache.has(path)))).toEqual([true, false, true]);
    await cache.prune(2_000, Date.now() + 29 * 86_400_000);
    expect(await cache.has(paths[0]!)).toBe(true);
    // It may show what was thrown away in the meantime.
    await cache.prune(2_000, Date.now() + 31 * 86_400_000);
    expect(await cache.has(paths[0]!)).toBe(false);
  });
  it('makes a piece once, however many ask for it at the same time', async () => {
    const cache = new PieceCache(join(folder, 'cache-i'));
    let made = 0;
    const path = cache.pathOf('cover', 'jpg');
    const ask = () =>
      cache.obtain(path, async (draft) => {
        made++;
        await writeFile(draft, 'x');
      });
    expect(await Promise.all([ask(), ask(), ask()])).toEqual([path, path, path]);
    await ask();
    expect(made).toBe(1);
  });
  it('keeps nothing of a piece that could not be made', async () => {
    const cache = new PieceCache(join(folder, 'cache-h'));
    const path = cache.pathOf('x', 'mp4');
    await expect(cache.make(path, () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await cache.has(path)).toBe(false);
  });
});
