/**
 * The export of a two-minute lesson at 720p30 (screen with inset, speech, two cuts, one change of layout)
 * against a plain transcode of the same screen footage with the same encoder settings; and what one cut costs in
 * a lesson of an hour, against its making.
 */
import { filmOf } from '@under-chalk/core/film/film';
import { FIRST_CARD } from '@under-chalk/core/lesson/title-card';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { SOUND_ENCODER, VIDEO_ENCODER } from '@under-chalk/render/ffmpeg/encoder';
import { run, type MediaFile } from '@under-chalk/render/ffmpeg/run';
import { PieceCache } from '@under-chalk/render/film/cache';
import { makeFootage } from '@under-chalk/render/testing/footage';
import { renderFilm } from '@under-chalk/render/film/render-film';
import { CHUNK_FRAMES } from '@under-chalk/render/plan/chunks';
import { planFilm } from '@under-chalk/render/plan/plan-film';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import { makeVoice } from '@under-chalk/e2e/media';
import { readdirSync, readFileSync } from 'node:fs';
import { copyFile, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const SECONDS = 130;
const SIZE = { widthPx: 1280, heightPx: 720 };
const CHUNK_SECONDS = CHUNK_FRAMES / FILM_FPS;
const MOST = { ratio: 1.8, reexport: 0.06, hour: 0.02, standing: 1.6, closer: 2 };
const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-bench', s(SECONDS));
const cut = (start: number, end: number) => ({ takeId: take.id, startUs: s(start), endUs: s(end) });
const lesson = (more: Decisions['cuts'] = [], also: Partial<Decisions> = {}) =>
  lessonOf([take], {
    cuts: [cut(20.4, 25.4), cut(90.1, 95.1), ...more],
    layouts: [{ ...cut(0, 8), layout: { ...DEFAULT_LAYOUT, kind: 'camera' } }],
    ...also,
  });

const part = { x: 0.3, y: 0.2, width: 0.4, height: 0.4 };
/** Everything that stands: nothing of it moves from one frame to the next, and ffmpeg alone does all of it. */
const STANDING: Partial<Decisions> = {
  layoutTransitionUs: 0,
  frame: {
    ...{ shape: '16:9', margin: 0.03, rounding: 0.04 },
    ground: { is: 'gradient', from: '#22384d', to: '#8a4f4a' },
  },
  cameraLooks: [{ takeId: take.id, look: { x: 0.5, y: 0.45, near: 1.4, mirrored: true } }],
  defaultLayout: {
    ...DEFAULT_LAYOUT,
    inset: { ...DEFAULT_LAYOUT.inset, edge: 'shadow' },
  },
  textOverlays: [
    { ...cut(40, 52), textOverlay: { text: 'Page 12 of the tables', place: 'bottom' } },
  ],
  speeds: [{ ...cut(60, 72), speed: 150 }],
  titleCards: { opening: FIRST_CARD, closing: FIRST_CARD },
};
/** A fifth of its length seen closer: come to and gone from six times. */
const CLOSER: Partial<Decisions> = {
  closeUps: [2, 30, 45, 60, 75, 105].map((start) => ({
    ...cut(start, start + 4),
    closeUp: { part, pace: 'middling' },
  })),
};

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

/** The footage repeats after so long: a whole number of chunks, and of pieces of sound. */
const PERIOD = 128;
const HOUR = 3_600;

/** The same track again and again, without encoding: an hour of footage. */
const looped = async (media: MediaFile, folder: string, name: string): Promise<MediaFile> => {
  const part = join(folder, `part-${name}.mp4`);
  const path = join(folder, `hour-${name}.mp4`);
  await run('ffmpeg', ['-i', media.path, '-t', String(PERIOD), '-c', 'copy', part]);
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', part, '-t', String(HOUR), '-c', 'copy', path],
  ]);
  return { path, demuxer: 'mov' };
};

/**
 * An hour with one more cut: all that is done for it, over what making the hour costs. That is reckoned from the
 * first {@link PERIOD} s of it, for the rest is alike: its pieces are put there as copies.
 */
const oneCutInAnHour = async (
  folder: string,
  mediaOf: (trackId: string) => MediaFile,
): Promise<{ hourMs: number; hourCutMs: number }> => {
  const hour = takeOfLength('take-bench-hour', s(HOUR));
  const media = new Map<string, MediaFile>();
  for (const { id, kind } of hour.tracks) {
    media.set(id, await looped(mediaOf(`${take.id}-${kind}`), folder, kind));
  }
  const cache = new PieceCache(join(folder, 'cache-hour'));
  const planned = (cuts: Decisions['cuts']) =>
    planFilm(filmOf(lessonOf([hour], { cuts })), SIZE, 'An hour');
  const job = { mediaOf: (id: string) => media.get(id)!, cache };
  const first = await planned([{ takeId: hour.id, startUs: s(PERIOD), endUs: s(HOUR) }]);
  const partMs = await timed(() =>
    renderFilm({ ...job, plan: first, out: join(folder, 'part-of-hour.mp4') }),
  );
  const whole = await planned([]);
  for (const [pieces, extension] of [
    [whole.manifest.chunks, 'mp4'],
    [whole.manifest.sound, 'aac'],
  ] as const) {
    // The last one of the first period may be its end; the one before is like all that follow.
    const every = extension === 'mp4' ? PERIOD / CHUNK_SECONDS : PERIOD / (4 * CHUNK_SECONDS);
    for (const [index, { key, frames }] of pieces.entries()) {
      const path = cache.pathOf(key, extension);
      if (await cache.has(path)) continue;
      const like = pieces
        .slice(0, every)
        .findLast((piece, at) => piece.frames === frames && at % every === index % every);
      const from = like && cache.pathOf(like.key, extension);
      if (from && (await cache.has(from))) await cache.make(path, (draft) => copyFile(from, draft));
    }
  }
  await renderFilm({ ...job, plan: whole, out: join(folder, 'hour.mp4') });
  const middle = { takeId: hour.id, startUs: s(1_800.4), endUs: s(1_803.4) };
  let rendered = 0;
  const hourCutMs = await timed(async () => {
    const plan = await planned([middle]);
    const report = await renderFilm({ ...job, plan, out: join(folder, 'hour-cut.mp4') });
    rendered = report.rendered;
  });
  console.log(`${rendered} pieces were made for it`);
  return { hourMs: (partMs * HOUR) / PERIOD, hourCutMs };
};

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let peakMb = 0;
const watch = setInterval(() => {
  peakMb = Math.max(peakMb, memoryMb());
}, 250);
try {
  console.log(`Making ${SECONDS} s of footage…`);
  const made = await makeFootage(folder, take, SECONDS);
  const voice: MediaFile = { path: join(folder, 'speech.mp4'), demuxer: 'mov' };
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', makeVoice(folder), '-t', String(SECONDS)],
    ...['-ar', '48000', '-c:a', 'aac', voice.path],
  ]);
  const mediaOf = (id: string) => (id === `${take.id}-voice` ? voice : made(id));
  const cache = new PieceCache(join(folder, 'cache'));
  const render = async (more: Decisions['cuts'], out: string) =>
    renderFilm({
      plan: await planFilm(filmOf(lesson(more)), SIZE, 'Bench'),
      mediaOf,
      cache,
      out: join(folder, out),
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
  const alone = async (also: Partial<Decisions>, name: string) => {
    const plan = await planFilm(filmOf(lesson([], also)), SIZE, 'Bench');
    const job = { mediaOf, cache: new PieceCache(join(folder, `cache-${name}`)) };
    return timed(() => renderFilm({ ...job, plan, out: join(folder, `${name}.mp4`) }));
  };
  console.log('With everything that stands…');
  const standingMs = await alone(STANDING, 'standing');
  console.log('With a fifth of it seen closer…');
  const closerMs = await alone(CLOSER, 'closer');
  console.log('One cut in an hour…');
  const { hourMs, hourCutMs } = await oneCutInAnHour(folder, mediaOf);

  const result = {
    name: 'export',
    floorMs: Math.round(floorMs),
    oursMs: Math.round(oursMs),
    ratio: Number((oursMs / floorMs).toFixed(2)),
    peakMb: Math.round(exportPeak),
    reexportMs: Math.round(reexportMs),
    reexportRatio: Number((reexportMs / oursMs).toFixed(3)),
    standingRatio: Number((standingMs / floorMs).toFixed(2)),
    closerRatio: Number((closerMs / floorMs).toFixed(2)),
    hourMs: Math.round(hourMs),
    hourCutMs: Math.round(hourCutMs),
    hourCutRatio: Number((hourCutMs / hourMs).toFixed(4)),
  };
  const results = join(process.cwd(), 'bench', 'results');
  await mkdir(results, { recursive: true });
  await writeFile(join(results, 'export.json'), `${JSON.stringify(result)}\n`);
  const row = (name: string, ms: number, ratio: string) =>
    console.log(`${name.padEnd(34)}${(ms / 1000).toFixed(1).padStart(7)} s   ${ratio}`);
  row('plain transcode (floor)', floorMs, '1');
  row('export of the lesson', oursMs, `${result.ratio} of the floor (at most ${MOST.ratio})`);
  row(
    'the same after one more cut',
    reexportMs,
    `${result.reexportRatio} of the export (at most ${MOST.reexport})`,
  );
  row(
    'the same, with all that stands',
    standingMs,
    `${result.standingRatio} of the floor (at most ${MOST.standing})`,
  );
  row(
    'the same, a fifth seen closer',
    closerMs,
    `${result.closerRatio} of the floor (at most ${MOST.closer})`,
  );
  row(
    'an hour after one more cut',
    hourCutMs,
    `${result.hourCutRatio} of it (at most ${MOST.hour})`,
  );
  console.log(`peak memory ${result.peakMb} MB`);
  const missed =
    result.ratio > MOST.ratio ||
    result.reexportRatio > MOST.reexport ||
    result.hourCutRatio > MOST.hour ||
    result.standingRatio > MOST.standing ||
    result.closerRatio > MOST.closer;
  if (missed) process.exitCode = 1;
} finally {
  clearInterval(watch);
  await rm(folder, { recursive: true, force: true });
}
