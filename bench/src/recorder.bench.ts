/**
 * The recorder: what each kind of failure costs, ten times each, ten minutes of capture, and two hours on a
 * clock that runs fast. The bound of the capture is its own source: what the devices gave is counted in the
 * page, beside what was recorded.
 *
 * `--failures`, `--capture` or `--long` does one part only, and names of failures only those; the other
 * figures of the last run are kept. `--seconds=240` captures for less long.
 */
import { FAILURES, tryFailure, type Cost, type Failure } from '@under-chalk/e2e/failures';
import { capture, type Captured } from '@under-chalk/e2e/capture';
import { recordLong, type Long } from '@under-chalk/e2e/long';
import { makeCamera, makeVoice } from '@under-chalk/e2e/media';
import { readFileSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const RUNS = 10;
const CAPTURE_SECONDS = 600;
const LONG_SECONDS = 7_200;
/** As fast as two cores encode without falling behind. */
const LONG_SPEED = 10;
/** How long it is recorded before the failure, or how long the failure lasts, s. */
const SECONDS: Record<Failure, number> = {
  'kill the renderer': 8,
  'kill the browser': 8,
  'kill the server': 6,
  'cut the connection': 60,
  'fill the browser store': 8,
  'fill the server disk': 5,
  'fail the encoder': 8,
};
/** The most that may be lost, ms. */
const MOST: Record<Failure, number> = {
  'kill the renderer': 2_000,
  'kill the browser': 2_000,
  'kill the server': 0,
  'cut the connection': 0,
  'fill the browser store': 2_000,
  'fill the server disk': 0,
  'fail the encoder': 2_000,
};

/** A minute without a connection is mostly waiting: two at a time. */
const AT_ONCE: Partial<Record<Failure, number>> = { 'cut the connection': 2 };

interface Row {
  readonly kind: Failure;
  readonly runs: number;
  readonly maxLostMs: number;
  readonly corrupt: number;
}
interface Result {
  readonly name: 'recorder';
  readonly failures: readonly Row[];
  readonly capture: Captured | null;
  readonly long: Long | null;
}

const results = join(process.cwd(), 'bench', 'results');
const file = join(results, 'recorder.json');
const before = (): Result => {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Result;
  } catch {
    return { name: 'recorder', failures: [], capture: null, long: null };
  }
};

const words = process.argv.slice(2);
const seconds = Number(
  words.find((word) => /^--seconds=\d+$/.test(word))?.slice(10) ?? CAPTURE_SECONDS,
);
const only = words.find((word) => ['--failures', '--capture', '--long'].includes(word));
const kinds = words.filter((word) => !word.startsWith('--'));
const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let failures = before().failures;
let captured = before().capture;
let long = before().long ?? null;
const save = async () => {
  const order = FAILURES.flatMap((kind) => failures.filter((row) => row.kind === kind));
  const result: Result = { name: 'recorder', failures: order, capture: captured, long };
  await mkdir(results, { recursive: true });
  await writeFile(file, `${JSON.stringify(result)}\n`);
};
try {
  if (!only || only === '--failures') {
    const devices = { voice: makeVoice(folder), camera: makeCamera(folder) };
    for (const kind of FAILURES) {
      if (kinds.length > 0 && !kinds.includes(kind)) continue;
      const costs: Cost[] = [];
      const atOnce = AT_ONCE[kind] ?? 1;
      while (costs.length < RUNS) {
        const some = Array.from({ length: Math.min(atOnce, RUNS - costs.length) }, () =>
          tryFailure(kind, SECONDS[kind], devices),
        );
        for (const cost of await Promise.all(some)) {
          costs.push(cost);
          const what = `${JSON.stringify(cost.tracks)}${cost.corrupt ? ' CORRUPT' : ''}`;
          console.log(`${kind} ${costs.length}: ${what}`);
        }
      }
      const row = {
        kind,
        runs: costs.length,
        maxLostMs: Math.max(...costs.map((cost) => cost.lostMs)),
        corrupt: costs.filter((cost) => cost.corrupt).length,
      };
      failures = [...failures.filter((other) => other.kind !== kind), row];
      await save();
    }
  }
  if (!only || only === '--capture') {
    captured = await capture(seconds);
    await save();
  }
  if (!only || only === '--long') {
    long = await recordLong(LONG_SECONDS, LONG_SPEED);
    await save();
  }
} finally {
  await rm(folder, { recursive: true, force: true });
}

for (const { kind, runs, maxLostMs, corrupt } of failures) {
  const good = maxLostMs <= MOST[kind] && corrupt === 0;
  console.log(
    `${kind.padEnd(26)}${String(runs).padStart(3)} runs   most lost ${String(maxLostMs).padStart(5)} ms (at most ${MOST[kind]})   ${corrupt} corrupt${good ? '' : '   TOO MUCH'}`,
  );
  if (!good) process.exitCode = 1;
}
if (captured) {
  const { droppedShare, memoryGrowthShare, driftMs } = captured;
  console.log(
    `capture of ${captured.seconds} s: ${(droppedShare * 100).toFixed(2)} % of frames dropped (at most 2), memory ${(memoryGrowthShare * 100).toFixed(1)} % more in the last minute than in the second (at most 15), clocks ${driftMs} ms apart at the end (at most 20)`,
  );
  if (droppedShare > 0.02 || memoryGrowthShare > 0.15 || driftMs > 20) process.exitCode = 1;
}
if (long) {
  const { speed, lostMs, corrupt, endsApartMs, memoryGrowthShare } = long;
  console.log(
    `${long.seconds} s on a clock ${speed} times as fast, cut off for a quarter of them: ${lostMs} ms lost (at most 0), ${corrupt ? 'corrupt' : 'whole'}, ends ${endsApartMs} ms apart, memory ${(memoryGrowthShare * 100).toFixed(1)} % more in the last minute than in the second`,
  );
  if (lostMs > 0 || corrupt) process.exitCode = 1;
}
