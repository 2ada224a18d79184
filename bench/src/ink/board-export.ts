/**
 * The export of a board lesson of five minutes (400 strokes over three pages, a voice, no camera) at 720p, as a share
 * of its length.
 */
import { filmOf } from '@under-chalk/core/film/film';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import type { InkRecord, InkSample } from '@under-chalk/core/ink/record';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { makeVoice } from '@under-chalk/e2e/media';
import { run } from '@under-chalk/render/ffmpeg/run';
import { PieceCache } from '@under-chalk/render/film/cache';
import { renderFilm } from '@under-chalk/render/film/render-film';
import { planFilm } from '@under-chalk/render/plan/plan-film';
import { join } from 'node:path';

const SECONDS = 300;
const STROKES = 400;
const PAGES = 3;
/** A stroke takes so long, and the hand rests after every few of them, as somebody does who speaks. */
const STROKE_US = 350_000;
const SAMPLES = 40;
const SIZE = { widthPx: 1280, heightPx: 720 };

const paper = { ruling: 'squared', shade: 'dark' } as const;
const pen = { tool: 'pen', colour: 'main', width: 0.0048, stays: 'wiped' } as const;

/** Letters in lines, ten at a time with a rest after them. */
const records = Array.from({ length: STROKES }, (_, index): InkRecord[] => {
  const [group, inGroup] = [Math.floor(index / 10), index % 10];
  const at = Math.round(((group * 10) / STROKES) * SECONDS * 1e6) + inGroup * 450_000;
  const onPage = index % Math.ceil(STROKES / PAGES);
  const [x, y] = [0.05 + (onPage % 24) * 0.037, 0.06 + Math.floor(onPage / 24) * 0.08];
  const stroke = `stroke-${index}`;
  const samples = Array.from({ length: SAMPLES }, (_none, n): InkSample => {
    const turn = (n / SAMPLES) * 2 * Math.PI;
    return [
      n === 0 ? 0 : Math.round(STROKE_US / SAMPLES),
      x + 0.013 * (1 + Math.cos(turn)),
      y + 0.02 * (1 + Math.sin(turn * (1 + (index % 3)))),
      0.4 + 0.2 * Math.sin(turn),
    ];
  });
  return [
    ...(onPage === 0 ? [{ at, do: 'page', page: `page-${index}`, paper } as const] : []),
    { at, do: 'begin', stroke, pen },
    { at, do: 'draw', stroke, samples },
    { at: at + STROKE_US, do: 'end', stroke },
  ];
}).flat();

const whole = takeOfLength('take-bench', SECONDS * 1e6);
const take = {
  ...whole,
  source: 'board' as const,
  tracks: [
    ...whole.tracks.filter(({ kind }) => kind === 'voice'),
    {
      ...{ id: 'take-bench-ink', kind: 'ink' as const, durationUs: SECONDS * 1e6, digest: 'bench' },
      ...{ widthPx: 1920, heightPx: 1080 },
    },
  ],
};
/** @returns how long the export took, as a share of the lesson's length */
export const boardExportShare = async (folder: string): Promise<number> => {
  const voice = join(folder, 'voice.mp4');
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', makeVoice(folder), '-t', String(SECONDS)],
    ...['-c:a', 'libopus', '-b:a', '96k', '-f', 'mp4', voice],
  ]);
  const ink = inkTrackOf(records);
  const inkOf = () => ink;
  const began = performance.now();
  const plan = await planFilm(filmOf(lessonOf([take])), SIZE, 'Board', { inkOf });
  const plannedMs = Math.round(performance.now() - began);
  await renderFilm({
    ...{
      plan,
      inkOf,
      cache: new PieceCache(join(folder, 'pieces')),
      out: join(folder, 'film.mp4'),
    },
    mediaOf: () => ({ path: voice, demuxer: 'mov' }),
  });
  const ms = Math.round(performance.now() - began);
  console.log(`a board lesson of ${SECONDS} s: ${ms} ms, ${plannedMs} of them for planning`);
  return ms / (SECONDS * 1000);
};
