/**
 * Materials: how soon pages are seen, what they take, what a lesson over slides costs in a film, and whether hostile
 * files are held. `npm run bench materials -- paging hostile` does only some of it; the other figures are kept.
 */
import { RealServer } from '@under-chalk/e2e/server';
import { readFileSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { tryHostile } from './materials/hostile';
import { lessonExportShare } from './materials/lesson-export';
import { pagingFigures, type Paging } from './materials/paging';

const MOST = { firstPageMs: 2_000, turnMsP95: 100, memoryMb: 200 };
const LEAST_HOSTILE = 40;

interface Result extends Partial<Paging> {
  readonly name: 'materials';
  /** Of a lesson's length; a board lesson's stands in `ink.json`. */
  readonly exportShare?: number;
  readonly hostileTried?: number;
  readonly hostileHeld?: number;
}

const results = join(process.cwd(), 'bench', 'results');
const kept = <T>(name: string, none: T): T => {
  try {
    return JSON.parse(readFileSync(join(results, `${name}.json`), 'utf8')) as T;
  } catch {
    return none;
  }
};
const wanted = process.argv.slice(2);
const wants = (part: string) => wanted.length === 0 || wanted.includes(part);
const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let result: Result = kept<Result>('materials', { name: 'materials' });
const keep = async (more: Partial<Result>) => {
  result = { ...result, ...more };
  await mkdir(results, { recursive: true });
  await writeFile(join(results, 'materials.json'), `${JSON.stringify(result)}\n`);
};
try {
  if (wants('export')) {
    await keep({ exportShare: Number((await lessonExportShare(folder)).toFixed(3)) });
  }
  if (wants('paging')) {
    const server = await RealServer.start({});
    try {
      await keep(await pagingFigures(server, folder));
    } finally {
      await server.remove();
    }
  }
  if (wants('hostile')) {
    const server = await RealServer.start({});
    try {
      const { tried, held, fell } = await tryHostile(server);
      fell.forEach((words) => console.log(`fell: ${words}`));
      await keep({ hostileTried: tried, hostileHeld: held });
    } finally {
      await server.remove();
    }
  }
  const row = (name: string, value: number | undefined, most: number) => {
    const missed = value !== undefined && value > most;
    console.log(
      `${name.padEnd(46)}${String(value ?? '–').padStart(8)}   at most ${most}${missed ? '   MISSED' : ''}`,
    );
    return missed;
  };
  const board = kept<{ boardExportShare?: number }>('ink', {}).boardExportShare;
  const { hostileTried = 0, hostileHeld = 0 } = result;
  const missed = [
    row('first page of 300, ms', result.firstPageMs, MOST.firstPageMs),
    row('a page turned, 95th percentile, ms', result.turnMsP95, MOST.turnMsP95),
    row('memory, MB', result.memoryMb, MOST.memoryMb),
    row('export of a lesson over slides, share', result.exportShare, board ?? 0.06),
    row('hostile files that were not held', hostileTried - hostileHeld, 0),
  ];
  if (hostileTried > 0) {
    console.log(
      `${hostileHeld} of ${hostileTried} hostile files held (at least ${LEAST_HOSTILE} tried)`,
    );
  }
  if (missed.some(Boolean)) process.exitCode = 1;
} finally {
  await rm(folder, { recursive: true, force: true });
}
