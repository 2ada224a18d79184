/**
 * Pointers in captured screens, found against what is known: screens drawn with a pointer whose every place is kept,
 * encoded as a recorder does it. `npm run bench pointer`.
 */
import type { FoundPointer } from '@under-chalk/core/pointer/found';
import { pathOfFound } from '@under-chalk/core/pointer/found';
import { pointingAt } from '@under-chalk/core/pointer/path';
import { frameToUs } from '@under-chalk/core/time/frames';
import { run } from '@under-chalk/render/ffmpeg/run';
import { findPointer } from '@under-chalk/server/jobs/readings/find-pointer';
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FPS, record, SCREENS, SECONDS, SIZE, type Screen } from './pointer/footage';

const LEAST = { within8pxShare: 0.95, sureShare: 0.8, timesRealTime: 10 };
const MOST = { falseShare: 0.01 };
/** Pixels of the picture. */
const NEAR = 8;

interface Tally {
  /** Frames in which it says where the pointer is though there is one, and of those near enough. */
  sure: number;
  near: number;
  /** Frames in which the pointer moves, and of those in which it says where it is. */
  moving: number;
  movingSure: number;
  /** Frames without a pointer, and of those in which it says where it is. */
  without: number;
  wrong: number;
}
const nothing = (): Tally => ({ sure: 0, near: 0, moving: 0, movingSure: 0, without: 0, wrong: 0 });

/** What is drawn in a film, against what was recorded: the very function that a film asks. */
const tallyOf = ({ places }: Screen, found: FoundPointer): Tally => {
  const path = pathOfFound(found);
  const tally = nothing();
  places.forEach((place, frame) => {
    const at = pointingAt(path, frameToUs(frame));
    if (!place) {
      tally.without++;
      if (at) tally.wrong++;
      return;
    }
    const before = places[frame - 1];
    const moves = before && (before.x !== place.x || before.y !== place.y);
    if (moves) tally.moving++;
    if (!at) return;
    if (moves) tally.movingSure++;
    tally.sure++;
    const off = Math.hypot(at.x * SIZE.widthPx - place.x, at.y * SIZE.widthPx - place.y);
    if (off <= NEAR) tally.near++;
  });
  return tally;
};

const share = (part: number, whole: number) => (whole === 0 ? null : part / whole);
const shown = (value: number | null) => (value === null ? '–' : `${(value * 100).toFixed(1)} %`);

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
try {
  const files = new Map<Screen, string>();
  for (const screen of SCREENS) {
    const path = join(folder, `${files.size}.mp4`);
    await record(screen, path);
    files.set(screen, path);
  }
  // From here on everything is done by one core.
  execFileSync('taskset', ['-acp', '0', String(process.pid)], { stdio: 'ignore' });
  const all = nothing();
  let [foundMs, decodedMs] = [0, 0];
  console.log(`${'screen'.padEnd(30)}within 8 px   sure, moving   wrong   times real time`);
  for (const [screen, path] of files) {
    const track = {
      ...{ id: 'screen', kind: 'surface' as const, digest: '', durationUs: SECONDS * 1e6 },
      ...SIZE,
    };
    let began = performance.now();
    const decode = ['-threads', '1', '-i', path, '-f', 'null', '-'];
    await run('ffmpeg', decode);
    decodedMs += performance.now() - began;
    began = performance.now();
    const found = await findPointer({ path, demuxer: 'mov' }, track);
    const ms = performance.now() - began;
    foundMs += ms;
    const tally = tallyOf(screen, found);
    for (const key of Object.keys(all) as (keyof Tally)[]) all[key] += tally[key];
    console.log(
      screen.name.padEnd(30) +
        shown(share(tally.near, tally.sure)).padStart(11) +
        shown(share(tally.movingSure, tally.moving)).padStart(15) +
        shown(share(tally.wrong, tally.without)).padStart(8) +
        ((SECONDS * 1000) / ms).toFixed(1).padStart(18),
    );
  }
  const seconds = SCREENS.length * SECONDS;
  const result = {
    name: 'pointer',
    within8pxShare: Number((share(all.near, all.sure) ?? 0).toFixed(4)),
    sureShare: Number((share(all.movingSure, all.moving) ?? 0).toFixed(4)),
    falseShare: Number((share(all.wrong, all.without) ?? 1).toFixed(4)),
    timesRealTime: Number(((seconds * 1000) / foundMs).toFixed(1)),
  };
  console.log(
    `${JSON.stringify(result)}\n${(foundMs / decodedMs).toFixed(2)} times as long as decoding alone, at ${FPS} pictures a second`,
  );
  const results = join(process.cwd(), 'bench', 'results');
  await mkdir(results, { recursive: true });
  await writeFile(join(results, 'pointer.json'), `${JSON.stringify(result)}\n`);
  const missed = [
    ...Object.entries(LEAST).filter(([name, least]) => result[name as keyof typeof LEAST] < least),
    ...Object.entries(MOST).filter(([name, most]) => result[name as keyof typeof MOST] > most),
  ];
  missed.forEach(([name, bound]) => console.log(`MISSED: ${name}, ${bound}`));
  if (missed.length > 0) process.exitCode = 1;
} finally {
  await rm(folder, { recursive: true, force: true });
}
