/** What ink that stands over a third of a lesson of footage adds to its export. */
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { filmOf } from '@under-chalk/core/film/film';
import { inkOfLesson } from '@under-chalk/core/ink/changed-track';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { makeVoice } from '@under-chalk/e2e/media';
import { VIDEO_ENCODER } from '@under-chalk/render/ffmpeg/encoder';
import { PieceCache } from '@under-chalk/render/film/cache';
import { renderFilm } from '@under-chalk/render/film/render-film';
import { run, type MediaFile } from '@under-chalk/render/ffmpeg/run';
import { planFilm } from '@under-chalk/render/plan/plan-film';
import { makeFootage } from '@under-chalk/render/testing/footage';
import { join } from 'node:path';

const SECONDS = 130;
const SIZE = { widthPx: 1280, heightPx: 720 };
const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-bench', s(SECONDS));
const cut = (start: number, end: number) => ({ takeId: take.id, startUs: s(start), endUs: s(end) });
/** As the lesson of the export's bench is. */
const lesson = (ink: Partial<Decisions>) =>
  lessonOf([take], {
    cuts: [cut(20.4, 25.4), cut(90.1, 95.1)],
    layouts: [{ ...cut(0, 8), layout: { ...DEFAULT_LAYOUT, kind: 'camera' } }],
    ...ink,
  });
/** A ring and an arrow, there for a third of it. */
const standing: Partial<Decisions> = {
  addedInk: (['ellipse', 'arrow'] as const).map((tool, index) => ({
    takeId: take.id,
    stroke: {
      ...{ id: `stroke-bench-${index}`, page: null, text: '', atUs: s(40) },
      pen: { tool, colour: 'red', width: 0.006, stays: 'wiped' },
      samples: [
        [0, 0.3 + index * 0.2, 0.2, 0.5],
        [0, 0.45 + index * 0.2, 0.3, 0.5],
      ],
    },
  })),
  inkChanges: [0, 1].map((index) => ({
    ...{ takeId: take.id, strokeId: `stroke-bench-${index}` },
    change: { untilUs: s(80) },
  })),
};

/**
 * @returns the export with ink over that without, each made from nothing; and what a plain transcode of the footage
 *   takes, as a share of its length: what this machine can
 */
export const overlayExport = async (
  folder: string,
): Promise<{ overlayExportRatio: number; transcodeShare: number }> => {
  const made = await makeFootage(folder, take, SECONDS);
  const voice: MediaFile = { path: join(folder, 'speech.mp4'), demuxer: 'mov' };
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', makeVoice(folder), '-t', String(SECONDS)],
    ...['-ar', '48000', '-c:a', 'aac', voice.path],
  ]);
  const mediaOf = (id: string) => (id === `${take.id}-voice` ? voice : made(id));
  const exported = async (name: string, ink: Partial<Decisions>) => {
    const film = filmOf(lesson(ink));
    const inkOf = inkOfLesson(film.lesson, () => null);
    const began = performance.now();
    await renderFilm({
      plan: await planFilm(film, SIZE, 'Bench', { inkOf }),
      ...{ mediaOf, inkOf, cache: new PieceCache(join(folder, `cache-${name}`)) },
      out: join(folder, `${name}.mp4`),
    });
    return performance.now() - began;
  };
  const began = performance.now();
  const encoder = VIDEO_ENCODER.map((option, index) =>
    VIDEO_ENCODER[index - 1] === '-threads' ? '0' : option,
  );
  await run('ffmpeg', [
    ...['-i', mediaOf(`${take.id}-surface`).path, '-t', '60', ...encoder],
    ...['-f', 'mp4', join(folder, 'floor.mp4')],
  ]);
  const transcodeShare = (performance.now() - began) / 60_000;
  // In turn, twice: the machine is not the same from one minute to the next.
  const times = { without: [] as number[], with: [] as number[] };
  for (const turn of [1, 2]) {
    times.without.push(await exported(`without-${turn}`, {}));
    times.with.push(await exported(`with-${turn}`, standing));
  }
  const [without, withInk] = [Math.min(...times.without), Math.min(...times.with)];
  console.log(
    `the lesson of the export's bench: ${Math.round(without)} ms, with standing ink ${Math.round(withInk)} ms`,
  );
  return { overlayExportRatio: withInk / without, transcodeShare };
};
