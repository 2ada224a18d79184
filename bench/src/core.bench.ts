/**
 * The arithmetic of a long lesson: two hours with two thousand cuts. The bound of each step is a plain walk
 * over as many stretches, done in the same run.
 */
import { applyEdit } from '@under-chalk/core/edit/apply-edit';
import type { Edit } from '@under-chalk/core/edit/edit';
import { entriesOf } from '@under-chalk/core/edit/entry';
import { replay } from '@under-chalk/core/edit/history';
import { columnOf } from '@under-chalk/core/film/column';
import { filmOf } from '@under-chalk/core/film/film';
import { sectionsOf } from '@under-chalk/core/film/sections';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { wholeTakes } from '@under-chalk/core/lesson/placement';
import type { Phrase } from '@under-chalk/core/sound/phrases';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

const CUTS = 2_000;
const HOURS_US = 2 * 3_600_000_000;
const RUNS = 21;
const STEP_US = HOURS_US / CUTS;

/** The middle of several runs, ms. The first ones warm up. */
const middle = (work: () => unknown): number => {
  const took: number[] = [];
  for (let run = 0; run < RUNS + 3; run++) {
    const began = performance.now();
    work();
    if (run >= 3) took.push(performance.now() - began);
  }
  return took.sort((a, b) => a - b)[RUNS >> 1]!;
};

const takeId = 'take-one';
const cutAt = (index: number): Edit => {
  // In an order that is not that of time, as a teacher goes to and fro.
  const startUs = Math.round(((index * 7_919) % CUTS) * STEP_US + STEP_US / 4);
  return { do: 'cut', takeId, startUs, endUs: startUs + Math.round(STEP_US / 5) };
};
const edits: Edit[] = [
  { do: 'place', placement: wholeTakes([takeId]).placements[0]!, arrives: true },
  ...Array.from({ length: CUTS }, (_, index) => cutAt(index)),
  ...Array.from({ length: 200 }, (_, index): Edit => {
    const startUs = Math.round((index * HOURS_US) / 200);
    const kind = index % 2 === 0 ? 'camera' : 'surface';
    const layout = { ...DEFAULT_LAYOUT, kind } as const;
    return { do: 'set-layout', takeId, startUs, endUs: startUs + 10_000_000, layout };
  }),
];
const entries = edits.flatMap((edit, index) => entriesOf([edit], () => `entry-${index}`));
const take = takeOfLength(takeId, HOURS_US);
const { decisions } = replay(entries);
const lesson = lessonOf([take], decisions);
const film = filmOf(lesson);
const placed = film.placed[0]!;
const phrases: Phrase[] = Array.from({ length: 3_000 }, (_, index) => ({
  kind: 'speech',
  startUs: Math.round((index * HOURS_US) / 3_000),
  endUs: Math.round(((index + 1) * HOURS_US) / 3_000),
}));
const walk = middle(() =>
  decisions.cuts.map((cut) => ({ ...cut, length: cut.endUs - cut.startUs })),
);
const took = Array.from({ length: 200 }, (_, index) => {
  const edit: Edit = {
    do: 'restore',
    takeId,
    startUs: index * STEP_US,
    endUs: index * STEP_US + STEP_US / 3,
  };
  const began = performance.now();
  filmOf({ ...lesson, decisions: applyEdit(decisions, edit) });
  return performance.now() - began;
}).sort((a, b) => a - b);

const result = {
  name: 'core',
  cuts: decisions.cuts.length,
  replayMs: middle(() => replay(entries)),
  filmMs: middle(() => filmOf(lesson)),
  sectionsMs: middle(() => sectionsOf(film)),
  columnMs: middle(() => columnOf(lesson, placed, take, phrases)),
  editMsP95: took[Math.floor(took.length * 0.95)]!,
  walkMs: walk,
};
const rounded = Object.fromEntries(
  Object.entries(result).map(([name, value]) => [
    name,
    typeof value === 'number' ? Math.round(value * 100) / 100 : value,
  ]),
);
const MOST: Record<string, number> = {
  replayMs: 20,
  filmMs: 20,
  sectionsMs: 20,
  columnMs: 20,
  editMsP95: 4,
};
for (const [name, most] of Object.entries(MOST)) {
  const ms = rounded[name] as number;
  console.log(
    `${name.padEnd(12)} ${String(ms).padStart(8)} ms (at most ${most}), ${Math.round(ms / walk)} walks`,
  );
}
const results = join(process.cwd(), 'bench', 'results');
await mkdir(results, { recursive: true });
await writeFile(join(results, 'core.json'), `${JSON.stringify(rounded, null, 2)}\n`);
