/** The export of a lesson of five minutes over twenty slides, with a voice and no camera, at 720p, as a share of its length. */
import { filmOf } from '@under-chalk/core/film/film';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import type { InkRecord, InkSample } from '@under-chalk/core/ink/record';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { drawPdf, pagesPdf } from '@under-chalk/e2e/made-materials';
import { makeVoice } from '@under-chalk/e2e/media';
import { run } from '@under-chalk/render/ffmpeg/run';
import { PieceCache } from '@under-chalk/render/film/cache';
import { renderFilm } from '@under-chalk/render/film/render-film';
import { planFilm } from '@under-chalk/render/plan/plan-film';
import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const SECONDS = 300;
const SLIDES = 20;
const SIZE = { widthPx: 1280, heightPx: 720 };
const CONTENT = 'b'.repeat(64);
const EACH_US = (SECONDS / SLIDES) * 1e6;

/** A slide every fifteen seconds, and a line drawn under something on each. */
const records = Array.from({ length: SLIDES }, (_, page): InkRecord[] => {
  const at = page * EACH_US;
  const stroke = `stroke-${page}-line`;
  const samples = Array.from({ length: 40 }, (_none, n): InkSample => [
    ...([n === 0 ? 0 : 20_000, 0.1 + n * 0.01, 0.3 + 0.002 * Math.sin(n), 0.5] as const),
  ]);
  return [
    {
      ...{ at, do: 'page', page: `slide-${page}-of-it` },
      paper: { ruling: 'plain', shade: 'light' },
      of: { content: CONTENT, page, aspect: 16 / 9 },
    },
    {
      ...{ at: at + 5e6, do: 'begin', stroke },
      pen: { tool: 'pen', colour: 'red', width: 0.0048, stays: 'wiped' },
    },
    { at: at + 5e6, do: 'draw', stroke, samples },
    { at: at + 5_800_000, do: 'end', stroke },
  ];
}).flat();

/** @returns how long the export took, as a share of the lesson's length */
export const lessonExportShare = async (folder: string): Promise<number> => {
  const voice = join(folder, 'voice.mp4');
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', makeVoice(folder), '-t', String(SECONDS)],
    ...['-c:a', 'libopus', '-b:a', '96k', '-f', 'mp4', voice],
  ]);
  const slides = join(folder, 'slides.pdf');
  await writeFile(slides, await pagesPdf(SLIDES));
  const whole = takeOfLength('take-bench', SECONDS * 1e6);
  const take = {
    ...whole,
    source: 'board' as const,
    tracks: [
      ...whole.tracks.filter(({ kind }) => kind === 'voice'),
      {
        ...{ id: 'take-bench-ink', kind: 'ink' as const, durationUs: SECONDS * 1e6 },
        ...{ widthPx: 1920, heightPx: 1080, digest: 'bench' },
      },
    ],
  };
  const ink = inkTrackOf(records);
  const inkOf = () => ink;
  const pageFile = async ({ page }: { page: number }, widthPx: number) => {
    const out = join(folder, `page-${page}-${widthPx}.png`);
    if (!existsSync(out)) drawPdf(slides, page, widthPx, out);
    return out;
  };
  const began = performance.now();
  const plan = await planFilm(filmOf(lessonOf([take])), SIZE, 'Slides', { inkOf });
  await renderFilm({
    ...{ plan, inkOf, pageFile },
    ...{ cache: new PieceCache(join(folder, 'pieces')), out: join(folder, 'film.mp4') },
    mediaOf: () => ({ path: voice, demuxer: 'mov' }),
  });
  const ms = Math.round(performance.now() - began);
  console.log(`a lesson of ${SECONDS} s over ${SLIDES} slides: ${ms} ms`);
  return ms / (SECONDS * 1000);
};
