#!/usr/bin/env node
/**
 * `npm test`: runs everything from a fresh clone. A second run skips test files that passed and have not changed.
 *
 *     npm test -- --quick            without browser tests
 *     npm test -- --changed [commit] test files affected by changes since a commit (HEAD)
 *     npm test -- --shard 1/3        one of three parts of about the same duration
 *     npm test -- --all              includes test files that passed and have not changed
 */
import { Buffer } from 'node:buffer';
import { spawn } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { giveUp, root, run, say } from './lib/say.mjs';
import { referenceSeconds } from './test/reference-work.mjs';
import { addedUp, jestSums, playwrightSums, sumsInLines } from './test/reports.mjs';
import { runTasks } from './test/tasks.mjs';

/** Time budget of a complete run from a fresh clone, s, when the reference workload takes {@link REFERENCE_S}. */
const BUDGET_S = 75 * 60;
const REFERENCE_S = 1.6;
const CORES = 2;
/** Suites and specs over these durations are listed at the end, s. */
const LONG_SUITE_S = 40;
const LONG_SPEC_S = 90;

const args = process.argv.slice(2);
const valueOf = (flag) => {
  const next = args[args.indexOf(flag) + 1];
  return args.includes(flag) && next && !next.startsWith('--') ? next : null;
};
const isQuick = args.includes('--quick');
const isChanged = args.includes('--changed');
const shard = valueOf('--shard')?.split('/').map(Number) ?? null;
if (shard && !(shard[0] >= 1 && shard[0] <= shard[1]))
  giveUp('--shard wants i/n, from 1/n to n/n.');

const began = Date.now();
const sinceStart = () => `${Math.round((Date.now() - began) / 1000)} s since the start`;
const bin = (name) => join(root, 'node_modules', '.bin', name);
const cache = join(root, '.build', 'cache');
const reports = join(root, '.build', 'test-reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
mkdirSync(cache, { recursive: true });

/** Runs a program and prints its output only if it fails. */
const quietly = (program, programArgs) =>
  new Promise((resolve, reject) => {
    const child = spawn(program, programArgs, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    const told = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => told.push(text));
    child.once('error', reject);
    child.once('close', (code) => {
      if (code !== 0) process.stderr.write(Buffer.concat(told));
      resolve(code === 0);
    });
  });
const script = (...of) => quietly(process.execPath, of);

/** The test files of this run. Known once packages are installed, because the bundler reads the imports. */
let chosen = { all: [], jest: [], browser: [] };
const choose = async () => {
  const { affectedSince, isBrowserTest, notPassed, shardOf, suites } =
    await import('./test/suites.mjs');
  const all = await suites();
  let wanted = all;
  if (isChanged) wanted = affectedSince(all, valueOf('--changed') ?? 'HEAD');
  else if (!args.includes('--all')) wanted = notPassed(all);
  if (shard) wanted = shardOf(wanted, ...shard);
  chosen = {
    all,
    jest: wanted.filter(({ path }) => !isBrowserTest(path)),
    browser: isQuick ? [] : wanted.filter(({ path }) => isBrowserTest(path)),
  };
  const count = chosen.jest.length + chosen.browser.length;
  if (count < all.length) say(`${count} of ${all.length} test files are run.`);
  return true;
};

const done = async (work) => {
  await work;
  return true;
};
const jestReport = join(reports, 'jest.json');
const browserReports = ['together', 'alone'].map((name) => join(reports, `${name}.json`));
const references = [];
const measure = async () => {
  references.push(await referenceSeconds());
  return true;
};

/** In order of priority. */
const tasks = [
  { name: 'packages', cores: 0, run: () => done(ready.unpacked()) },
  {
    name: 'programs',
    cores: 0,
    run: () =>
      done(
        ready.programs(
          ...['ffmpeg', 'flite', 'pocketsphinx', 'espeak-ng'],
          ...(isQuick ? [] : ['chromium', 'nginx']),
        ),
      ),
  },
  { name: 'choice', needs: ['packages'], run: choose },
  { name: 'database', needs: ['packages'], run: () => done(ready.compiled('-O1')) },
  {
    name: 'server build',
    needs: ['packages'],
    run: () => script('scripts/lib/build.mjs', 'server'),
  },
  ...(isQuick
    ? []
    : [
        {
          name: 'app build',
          needs: ['packages'],
          run: () => script('scripts/lib/build.mjs', 'app'),
        },
      ]),
  {
    name: 'lint',
    needs: ['packages'],
    run: () =>
      quietly(bin('eslint'), [
        ...['.', '--max-warnings', '0', '--cache', '--cache-strategy', 'content'],
        ...['--cache-location', join(cache, 'eslint')],
      ]),
  },
  { name: 'types', needs: ['packages'], run: () => quietly('npm', ['run', '--silent', 'types']) },
  {
    name: 'format',
    needs: ['packages'],
    run: () =>
      quietly(bin('prettier'), [
        ...['--check', '--log-level', 'warn', '.', '--cache', '--cache-strategy', 'content'],
        ...['--cache-location', join(cache, 'prettier')],
      ]),
  },
  { name: 'import cycles', needs: ['packages'], run: () => script('scripts/cycles.mjs') },
  ...(isQuick
    ? []
    : [
        {
          name: 'test data',
          needs: ['database', 'server build', 'programs'],
          run: () => script('scripts/test-data.mjs'),
        },
      ]),
  { name: 'reference work', cores: CORES, needs: ['packages'], run: measure },
  {
    name: 'unit and server tests',
    cores: CORES,
    needs: ['choice', 'database', 'programs', 'server build'],
    run: async () => {
      if (chosen.jest.length === 0) return true;
      const whole = chosen.all.filter(({ path }) => !path.endsWith('.spec.ts')).length;
      const only = chosen.jest.map(({ path }) => join(root, path));
      const code = await run(bin('jest'), [
        ...['--config', 'jest.config.mjs', '--maxWorkers', String(CORES)],
        ...['--json', '--outputFile', jestReport],
        ...(only.length < whole ? ['--runTestsByPath', ...only] : []),
      ]);
      return code === 0;
    },
  },
  {
    name: 'reference work again',
    cores: CORES,
    needs: ['unit and server tests'],
    run: measure,
  },
  {
    name: 'browser tests',
    cores: CORES,
    needs: ['unit and server tests', 'test data', 'app build'],
    run: async () => {
      if (chosen.browser.length === 0) return true;
      const only = chosen.browser.map(({ path }) => path.split('/').at(-1));
      const codes = [];
      for (const [index, [project, workers]] of [
        ['together', CORES],
        ['alone', 1],
      ].entries()) {
        codes.push(
          await run(
            bin('playwright'),
            [
              ...['test', '--config', 'e2e/playwright.config.ts', '--pass-with-no-tests'],
              ...['--project', project, '--workers', String(workers), ...only],
            ],
            { env: { ...process.env, UNDER_CHALK_TEST_REPORT: browserReports[index] } },
          ),
        );
      }
      return codes.every((code) => code === 0);
    },
  },
  { name: 'reference work, at last', cores: CORES, needs: ['browser tests'], run: measure },
];

ready.node();
const results = await runTasks(tasks, CORES, (name, passed, seconds) =>
  say(`${name}: ${passed ? 'passed' : 'FAILED'} in ${Math.round(seconds)} s; ${sinceStart()}.`),
);

const sums = addedUp([jestSums(jestReport), ...browserReports.map(playwrightSums)]);
const passedFiles = new Set(
  Object.entries(sums.files).flatMap(([path, { passed }]) => (passed ? [path] : [])),
);
const { keepPassed, RECORD } = await import('./test/suites.mjs');
keepPassed(chosen.all, passedFiles);

const totalS = (Date.now() - began) / 1000;
const secondsOf = (...names) =>
  Math.round(names.reduce((sum, name) => sum + (results.get(name)?.seconds ?? 0), 0));
const specs = Object.fromEntries(
  Object.entries(sums.files)
    .map(([path, { seconds }]) => [path, Number(seconds.toFixed(1))])
    .sort(([a], [b]) => (a < b ? -1 : 1)),
);
const referenceS = references.reduce((sum, one) => sum + one, 0) / references.length;
const isWhole =
  !isQuick && chosen.all.length > 0 && Object.keys(specs).length === chosen.all.length;
if (isWhole) {
  const record = {
    name: 'tests',
    totalS: Math.round(totalS),
    installS: secondsOf('packages', 'database'),
    staticS: secondsOf('lint', 'types', 'format', 'import cycles'),
    jestS: secondsOf('unit and server tests'),
    browserS: secondsOf('browser tests'),
    tests: sums.passed + sums.failed.length,
    referenceS: Number(referenceS.toFixed(2)),
    specs,
  };
  writeFileSync(RECORD, `${JSON.stringify(record, null, 1)}\n`);
}

for (const [path, seconds] of Object.entries(specs).sort(([, a], [, b]) => b - a)) {
  const most = path.endsWith('.spec.ts') ? LONG_SPEC_S : LONG_SUITE_S;
  if (seconds > most) say(`${path} takes ${Math.round(seconds)} s: more than ${most}.`);
}
let isFine = [...results.values()].every(({ passed }) => passed) && sums.failed.length === 0;
const slowness = Math.max(1, referenceS / REFERENCE_S);
const budgetS = BUDGET_S * slowness;
say(
  `${(totalS / 60).toFixed(1)} minutes; the budget is ${(budgetS / 60).toFixed(1)} on this machine now (reference work: ${referenceS.toFixed(2)} s).`,
);
if (totalS > budgetS) {
  console.error('The tests take longer than their budget: see the durations above.');
  isFine = false;
}
console.log(sumsInLines(sums).join('\n'));
if (isWhole && sums.passed === 0) {
  console.error('No test was run.');
  isFine = false;
}
process.exit(isFine ? 0 : 1);
