/**
 * The export of a two-minute lesson at 720p30 (screen with inset, two cuts, one change of arrangement)
 * against a plain transcode of the same screen footage with the same encoder settings.
 */
import { filmOf } from '@under-chalk/core/film/film';
import { RESTING_ARRANGEMENT } from '@under-chalk/core/lesson/arrangement';
import { lessonOf, takeOfLength } from '@under-chalk/core/lesson/examples';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { SOUND_ENCODER, VIDEO_ENCODER } from '@under-chalk/render/ffmpeg/encoder';
import { run } from '@under-chalk/render/ffmpeg/run';
import { PieceCache } from '@under-chalk/render/film/cache';
import { makeFootage } from '@under-chalk/render/film/footage';
import { renderFilm } from '@under-chalk/render/film/render-film';
import { readdirSync, readFileSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const SECONDS = 130;
const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-bench', s(SECONDS));
const cut = (start: number, end: number) => ({ takeId: take.id, startUs: s(start), endUs: s(end) });
const lesson = (more: Decisions['cuts'] = []) =>
  lessonOf([take], {
    cuts: [cut(20.4, 25.4), cut(90.1, 95.1), ...more],
    arranged: [{ ...cut(0, 8), arrangement: { ...RESTING_ARRANGEMENT, kind: 'camera' } }],
  });

/** Memory of this process and all below it, MB, from Linux's /proc; 0 elsewhere. */
const memoryMb = (): number => {
  try {
    const parents = new Map<number, number>();
    const sizes = new Map<number, number>();
    for (const name of readdirSync('/proc').filter((entry) => /^\d+$/.test(entry))) {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, 'latin1');
        const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
        parents.set(Number(name), Number(fields[1]));
        sizes.set(Number(name), Number(fields[21]) * 4096);
      } catch {
        continue; // It has ended in between.
      }
    }
    const isOurs = (pid: number): boolean =>
      pid === process.pid || (parents.has(pid) && pid > 1 && isOurs(parents.get(pid)!));
    let bytes = 0;
    for (const [pid, size] of sizes) if (isOurs(pid)) bytes += size;
    return bytes / 1e6;
  } catch {
    return 0;
  }
};

const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let peakMb = 0;
const watch = setInterval(() => {
  peakMb = Math.max(peakMb, memoryMb());
}, 250);
try {
  console.log(`Making ${SECONDS} s of footage…`);
  const mediaOf = await makeFootage(folder, take, SECONDS);
  const cache = new PieceCache(join(folder, 'cache'));
  const render = (more: Decisions['cuts'], out: string) =>
    renderFilm({
      film: filmOf(lesson(more)),
      size: { widthPx: 1280, heightPx: 720 },
      mediaOf,
      cache,
      out: join(folder, out),
      title: 'Bench',
    });

  console.log('The floor: a plain transcode…');
  // The same settings; both cores, as the chunks have them together.
  const encoder = VIDEO_ENCODER.map((option, index) =>
    VIDEO_ENCODER[index - 1] === '-threads' ? '0' : option,
  );
  const floorMs = await timed(() =>
    run('ffmpeg', [
      ...['-i', mediaOf(`${take.id}-surface`).path, '-i', mediaOf(`${take.id}-voice`).path],
      ...['-t', '120', ...encoder, ...SOUND_ENCODER, '-f', 'mp4', join(folder, 'floor.mp4')],
    ]),
  );
  console.log('The export…');
  peakMb = 0;
  const oursMs = await timed(() => render([], 'film.mp4'));
  const exportPeak = peakMb;
  console.log('One more cut of 3 s in the middle…');
  const reexportMs = await timed(() => render([cut(60.3, 63.3)], 'again.mp4'));

  const result = {
    name: 'export',
    floorMs: Math.round(floorMs),
    oursMs: Math.round(oursMs),
    ratio: Number((oursMs / floorMs).toFixed(2)),
    peakMb: Math.round(exportPeak),
    reexportMs: Math.round(reexportMs),
    reexportRatio: Number((reexportMs / oursMs).toFixed(3)),
  };
  const results = join(process.cwd(), 'bench', 'results');
  await mkdir(results, { recursive: true });
  await writeFile(join(results, 'export.json'), `${JSON.stringify(result)}\n`);
  const row = (name: string, ms: number, ratio: string) =>
    console.log(`${name.padEnd(34)}${(ms / 1000).toFixed(1).padStart(7)} s   ${ratio}`);
  row('plain transcode (floor)', floorMs, '1');
  row('export of the lesson', oursMs, `${result.ratio} of the floor (at most 4)`);
  row(
    'the same after one more cut',
    reexportMs,
    `${result.reexportRatio} of the export (at most 0.35)`,
  );
  console.log(`peak memory ${result.peakMb} MB`);
  if (result.ratio > 4 || result.reexportRatio > 0.35) process.exitCode = 1;
} finally {
  clearInterval(watch);
  await rm(folder, { recursive: true, force: true });
}
