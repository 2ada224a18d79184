/**
 * Ink: how soon it is seen, what it costs in a film, whether preview and film are alike, and what a killed browser
 * loses. `npm run bench ink -- export overlay` does only some of it; the other figures of the last run are kept.
 */
import { RealServer } from '@under-chalk/e2e/server';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { piecesLost, previewAndFilm, writingFigures } from './ink/at-the-board';
import { boardExportShare } from './ink/board-export';
import { overlayExport } from './ink/overlay-export';

const MOST = {
  ...{ p50: 20, p95: 33, slowFrameShare: 0.01, boardExportShare: 0.06 },
  ...{ overlayExportRatio: 1.15, ssim: 0.98, piecesLostMs: 2_000 },
};
const KILLS = 5;
/** The demo's board lesson, and frames in which its hand draws. */
const DEMO = 'lesson-rule-of-twelfths';
const PLACES = Array.from({ length: 20 }, (_, n) => 45 + n * 92);

interface Result {
  readonly name: 'ink';
  readonly pointerToInkMs?: { readonly p50: number; readonly p95: number };
  readonly slowFrameShare?: number;
  readonly boardExportShare?: number;
  readonly overlayExportRatio?: number;
  /** A plain transcode of footage, as a share of its length: what shares are to be read against. */
  readonly transcodeShare?: number;
  readonly ssim?: number;
  readonly piecesLostMs?: number;
}

const results = join(process.cwd(), 'bench', 'results');
const before = (): Result => {
  try {
    return JSON.parse(readFileSync(join(results, 'ink.json'), 'utf8')) as Result;
  } catch {
    return { name: 'ink' };
  }
};
const rounded = (value: number) => Math.round(value * 1_000) / 1_000;

const wanted = process.argv.slice(2);
const wants = (part: string) => wanted.length === 0 || wanted.includes(part);
const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
let result: Result = before();
/** Each is kept as soon as it is there. */
const keep = async (more: Partial<Result>) => {
  result = { ...result, ...more };
  await mkdir(results, { recursive: true });
  await writeFile(join(results, 'ink.json'), `${JSON.stringify(result)}\n`);
};
try {
  if (wants('export')) {
    await keep({ boardExportShare: rounded(await boardExportShare(folder)) });
  }
  if (wants('overlay')) {
    const { overlayExportRatio, transcodeShare } = await overlayExport(folder);
    await keep({
      overlayExportRatio: rounded(overlayExportRatio),
      transcodeShare: rounded(transcodeShare),
    });
  }
  if (wants('writing') || wants('killed') || wants('alike')) {
    const server = await RealServer.start({});
    try {
      if (wants('writing')) {
        const { pointerToInkMs, slowFrameShare } = await writingFigures(server);
        const { p50, p95 } = pointerToInkMs;
        await keep({
          pointerToInkMs: { p50: rounded(p50), p95: rounded(p95) },
          slowFrameShare: rounded(slowFrameShare),
        });
      }
      if (wants('killed')) {
        await keep({ piecesLostMs: Math.round(await piecesLost(server, KILLS)) });
      }
      if (wants('alike')) {
        const seed = join(process.cwd(), 'server', 'dist', 'seed.js');
        execFileSync(process.execPath, [seed, server.url, join(process.cwd(), 'demo', 'media')]);
        await keep({ ssim: rounded(await previewAndFilm(server, folder, DEMO, PLACES)) });
      }
    } finally {
      await server.remove();
    }
  }
  const row = (name: string, value: number | undefined, most: number, least = false) => {
    const missed = value !== undefined && (least ? value < most : value > most);
    const bound = `${least ? 'at least' : 'at most'} ${most}`;
    console.log(
      `${name.padEnd(46)}${String(value ?? '–').padStart(8)}   ${bound}${missed ? '   MISSED' : ''}`,
    );
    return missed;
  };
  const missed = [
    row('pointer to ink, median, ms', result.pointerToInkMs?.p50, MOST.p50),
    row('pointer to ink, 95th percentile, ms', result.pointerToInkMs?.p95, MOST.p95),
    row('slow frames on a page of 2,000 strokes', result.slowFrameShare, MOST.slowFrameShare),
    row(
      'export of a board lesson, share of its length',
      result.boardExportShare,
      MOST.boardExportShare,
    ),
    row(
      'export with standing ink over that without',
      result.overlayExportRatio,
      MOST.overlayExportRatio,
    ),
    row('preview and film, least SSIM', result.ssim, MOST.ssim, true),
    row('lost when killed, worst of five, ms', result.piecesLostMs, MOST.piecesLostMs),
  ];
  if (result.transcodeShare && result.boardExportShare) {
    const of = rounded(result.boardExportShare / result.transcodeShare);
    console.log(
      `a plain transcode takes ${result.transcodeShare} of the length here: the board lesson ${of} of that`,
    );
  }
  if (missed.includes(true)) process.exitCode = 1;
} finally {
  await rm(folder, { recursive: true, force: true });
}
