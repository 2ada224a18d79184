/**
 * The recorder: what each kind of failure costs, ten times each, and ten minutes of capture. The bound of
 * the capture is its own source: what the devices gave is counted in the page, beside what was recorded.
 *
 * `--failures` or `--capture` does one half only, and keeps the other's figures of the last run.
 */
import { FAILURES, tryFailure, type Cost, type Failure } from '@under-chalk/e2e/failures';
import { capture, type Captured } from '@under-chalk/e2e/capture';
import { makeCamera, makeVoice } from '@under-chalk/e2e/media';
import { readFileSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const RUNS = 10;
const CAPTURE_SECONDS = 600;
/** How long it is recorded before the failure, or how long the failure lasts, s. */
const SECONDS: Record<Failure, number> = {
  'kill the renderer': 8,
  'kill the server': 6,
  'cut the connection': 60,
  'fill the browser store': 8,
  'fill the server disk': 5,
};
/** The most that may be lost, ms. */
const MOST: Record<Failure, number> = {
  'kill the renderer': 2_000,
  'kill the server': 0,
  'cut the connection': 0,
  'fill the browser store': 2_000,
  'fill the server disk': 0,
};

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
}

const results = join(process.cwd(), 'bench', 'results');
const file = join(results, 'recorder.json');
const before = (): Result => {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Result;
  } catch {
    return { name: 'recorder', failures: [], capture: null };
  }
};

const only = process.argv.find((word) => word === '--failures' || word === '--capture');
const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let failures = before().failures;
let captured = before().capture;
try {
  if (only !== '--capture') {
    const devices = { voice: makeVoice(folder), camera: makeCamera(folder) };
    const rows: Row[] = [];
    for (const kind of FAILURES) {
      const costs: Cost[] = [];
      for (let run = 0; run < RUNS; run++) {
        const cost = await tryFailure(kind, SECONDS[kind], devices);
        costs.push(cost);
        console.log(
          `${kind} ${run + 1}: ${JSON.stringify(cost.tracks)}${cost.corrupt ? ' CORRUPT' : ''}`,
        );
      }
      rows.push({
        kind,
        runs: costs.length,
        maxLostMs: Math.max(...costs.map((cost) => cost.lostMs)),
        corrupt: costs.filter((cost) => cost.corrupt).length,
      });
    }
    failures = rows;
  }
  if (only !== '--failures') captured = await capture(CAPTURE_SECONDS);
} finally {
  await rm(folder, { recursive: true, force: true });
}

const result: Result = { name: 'recorder', failures, capture: captured };
await mkdir(results, { recursive: true });
await writeFile(file, `${JSON.stringify(result)}\n`);
for (const { kind, runs, maxLostMs, corrupt } of failures) {
  const good = maxLostMs <= MOST[kind] && corrupt === 0;
  console.log(
    `${kind.padEnd(26)}${String(runs).padStart(3)} runs   most lost ${String(maxLostMs).padStart(5)} ms (at most ${MOST[kind]})   ${corrupt} corrupt${good ? '' : '   TOO MUCH'}`,
  );
  if (!good) process.exitCode = 1;
}
if (captured) {
  const { seconds, droppedShare, memoryGrowthShare, driftMs } = captured;
  console.log(
    `capture of ${seconds} s: ${(droppedShare * 100).toFixed(2)} % of frames dropped (at most 2), memory ${(memoryGrowthShare * 100).toFixed(1)} % more in the last minute than in the second (at most 15), clocks ${driftMs} ms apart at the end (at most 20)`,
  );
  if (droppedShare > 0.02 || memoryGrowthShare > 0.15 || driftMs > 20) process.exitCode = 1;
}
