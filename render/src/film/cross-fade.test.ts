import { filmOf } from '@under-chalk/core/film/film';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { Layer } from '@under-chalk/core/scene/layers';
import type { CrossFadeLayer } from '@under-chalk/core/scene/layers/cross-fade';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';
import { planFilm } from '../plan/plan-film';
import { ssimOf } from '../testing/films';
import { makeFootage } from '../testing/footage';
import { renderChunk } from './render-chunk';

jest.setTimeout(120_000);
const size = { widthPx: 640, heightPx: 360 };
const take = takeOfLength('take-one', 8_000_000);
const cuts = [{ takeId: take.id, startUs: 2_000_000, endUs: 5_000_000 }];
let folder: string;
let mediaOf: (trackId: string) => MediaFile;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-crossFade-'));
  mediaOf = await makeFootage(folder, take, 8);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const job = () => ({
  ...{ mediaOf, inkOf: () => null, onFrames: () => undefined },
  pageFile: () => Promise.reject(new Error('there are no pages')),
});
const planOf = (crossFadeUs: number) =>
  planFilm(filmOf(lessonOf([take], { cuts, crossFadeUs })), size, '');

/** Renders the chunk that a frame of the film lies in. @returns the file, and the frame in it */
const chunkAt = async (crossFadeUs: number, frame: number) => {
  const plan = await planOf(crossFadeUs);
  let begins = 0;
  const index = plan.manifest.chunks.findIndex(({ frames }) => (begins += frames) > frame);
  const work = plan.chunkWork(index);
  const out = join(folder, `${crossFadeUs}-${index}.mp4`);
  await renderChunk(work, job(), out);
  return { out, at: frame - begins + work.scenes.length, work };
};

it('is the one picture over the other, as clear as it should be, in a piece of its own', async () => {
  const soft = await chunkAt(400_000, 64);
  expect([soft.work.renderPath, soft.work.scenes.length, soft.at]).toEqual(['painter', 12, 4]);
  const { opacity } = soft.work.scenes[4]!.layers.at(-1) as CrossFadeLayer<Layer>;
  const [before, after] = [await chunkAt(0, 59), await chunkAt(0, 64)];
  const mixed = join(folder, 'mixed.mp4');
  const one = ({ at }: { at: number }) => `select=eq(n\\,${at}),setpts=0`;
  const mix = `blend=all_expr=A*${opacity}+B*(1-${opacity})`;
  await run('ffmpeg', [
    ...['-i', before.out, '-i', after.out, '-filter_complex'],
    `[0:v]${one(before)}[a];[1:v]${one(after)}[b];[a][b]${mix}`,
    ...['-frames:v', '1', '-qp', '4', mixed],
  ]);
  const shown = join(folder, 'shown.mp4');
  await run('ffmpeg', ['-i', soft.out, '-vf', one(soft), '-frames:v', '1', '-qp', '4', shown]);
  expect(await ssimOf(folder, mixed, shown)).toBeGreaterThan(0.98);
  // It is neither of the two.
  const alone = join(folder, 'alone.mp4');
  await run('ffmpeg', ['-i', after.out, '-vf', one(after), '-frames:v', '1', '-qp', '4', alone]);
  expect(await ssimOf(folder, alone, shown)).toBeLessThan(0.95);
});

it('is the same by filters alone as painted, where another take’s picture is shown', async () => {
  // One that is higher than the frame is wide: it stands in the middle, on the ground.
  const other = { ...takeOfLength('take-two', 8_000_000, ['camera']), tracks: [take.tracks[1]!] };
  const of = { takeId: other.id, fromUs: 700_000, sinceUs: 1_000_000 };
  const cutaways = [{ takeId: take.id, startUs: 1_000_000, endUs: 6_000_000, of }];
  const lesson = lessonOf([take, other], { cutaways, excluded: [other.id], cuts });
  const plan = await planFilm(filmOf(lesson), size, '');
  const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
  const shows = works.filter(({ tracks }) => tracks.length === 1);
  expect(shows.length).toBeGreaterThan(0);
  for (const [index, work] of shows.entries()) {
    expect(work.renderPath).toBe('filters');
    const [a, b] = [join(folder, `over-${index}-a.mp4`), join(folder, `over-${index}-b.mp4`)];
    await renderChunk(work, job(), a);
    await renderChunk({ ...work, renderPath: 'painter' }, job(), b);
    expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
  }
});

it('makes nothing anew but what it lies in', async () => {
  const [hard, soft] = [await planOf(0), await planOf(400_000)];
  const keys = new Set(hard.manifest.chunks.map(({ key }) => key));
  const anew = soft.manifest.chunks.filter(({ key }) => !keys.has(key));
  // The twelve frames, and what is left of the piece that they were taken from.
  expect(anew.map(({ frames }) => frames)).toEqual([12, expect.any(Number)]);
});
