import { createCanvas } from '@napi-rs/canvas';
import { filmOf } from '@under-chalk/core/film/film';
import { lessonOf } from '@under-chalk/core/testing/lessons';
import * as fc from 'fast-check';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MediaFile } from '../ffmpeg/run';
import type { ChunkWork } from '../plan/chunks';
import { planFilm } from '../plan/plan-film';
import { paintedWhole, ssimOf } from '../testing/films';
import { makeFootage } from '../testing/footage';
import { decisions, takes } from '../testing/mixtures';
import { renderChunk } from './render-chunk';

jest.setTimeout(240_000);
const size = { widthPx: 320, heightPx: 180 };
const MIXTURES = 20;
/** The layout stands still in these pieces, so a few frames are enough to compare. */
const FRAMES = 8;
let folder: string;
let mediaOf: (trackId: string) => MediaFile;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-render-paths-'));
  const all = { ...takes[0]!, tracks: takes.flatMap(({ tracks }) => tracks) };
  mediaOf = await makeFootage(folder, all, 14);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A page of its own for each number: a coloured field in a frame. */
const pageFile = async ({ page }: { page: number }, widthPx: number): Promise<string> => {
  const canvas = createCanvas(widthPx, Math.round(widthPx / 1.5));
  const context = canvas.getContext('2d');
  context.fillStyle = ['#a03020', '#2050a0', '#208040', '#806010', '#502080'][page % 5]!;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.clearRect(
    canvas.width * 0.2,
    canvas.height * 0.2,
    canvas.width * 0.3,
    canvas.height * 0.3,
  );
  const path = join(folder, `page-${page}-${widthPx}.png`);
  await writeFile(path, await canvas.encode('png'));
  return path;
};

/** Pieces that ffmpeg alone makes, of films that anything was decided about; no two of one film, each another look. */
const pieces = async (): Promise<ChunkWork[]> => {
  const found = new Map<string, ChunkWork>();
  for (const mixed of fc.sample(decisions, { seed: 20, numRuns: 120 })) {
    if (found.size === MIXTURES) break;
    const plan = await planFilm(filmOf(lessonOf(takes, mixed)), size, 'Tides');
    const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
    const work = works.find(({ renderPath, scenes, tracks }) => {
      const kinds = scenes[0]!.layers.map(({ kind }) => kind).join(' ');
      return (
        renderPath === 'filters' &&
        tracks.length > 0 &&
        scenes.length >= FRAMES &&
        !found.has(kinds)
      );
    });
    if (!work) continue;
    const kinds = work.scenes[0]!.layers.map(({ kind }) => kind).join(' ');
    found.set(kinds, { ...work, scenes: work.scenes.slice(0, FRAMES) });
  }
  return [...found.values()];
};

it('agree on twenty mixtures of all that can be decided: ffmpeg alone, and painted frame by frame', async () => {
  const works = await pieces();
  const job = { mediaOf, inkOf: () => null, pageFile, onFrames: () => undefined };
  const least: Record<string, number> = {};
  for (const [index, work] of works.entries()) {
    const [a, b] = [join(folder, `${index}-a.mp4`), join(folder, `${index}-b.mp4`)];
    await renderChunk(work, job, a);
    await paintedWhole(work, job, b);
    const name = `${index}: ${work.scenes[0]!.layers.map(({ kind }) => kind).join(' ')}`;
    least[name] = await ssimOf(folder, a, b);
  }
  expect(works.length).toBe(MIXTURES);
  expect(Object.entries(least).filter(([, likeness]) => likeness < 0.98)).toEqual([]);
});
