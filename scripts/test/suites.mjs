/** Test files with their dependencies, recorded durations and results. */
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { SERVER_SOURCES } from '../lib/build.mjs';
import { importsOf } from '../lib/imports.mjs';
import { root } from '../lib/say.mjs';

const PASSED = join(root, '.build', 'tests-passed.json');
/** Durations of the last complete run. */
export const RECORD = join(root, 'bench', 'results', 'tests.json');
/** Assumed duration of a test file without a record, s. */
const UNKNOWN_S = 5;

/** Files that every test depends on. */
const FOR_ALL = ['package-lock.json', 'tsconfig.base.json'];
const FOR_JEST = ['jest.config.mjs', 'scripts/jest/environment.cjs', 'scripts/jest/runtime.cjs'];
const FOR_APP = ['app/jest.config.cjs', 'app/jest/setup.ts', 'app/babel.config.js'];
/** Files that tests of a package read without importing them. */
const BESIDE = { server: ['server/assets', 'server/src/testing'], app: [], e2e: ['demo/media'] };
/** Suites that import this file run programs of the built server. */
const RUNS_SERVER = 'server/src/testing/built-scripts.ts';
const SERVER = [...SERVER_SOURCES, 'scripts/lib/build.mjs'];
const PRODUCT = [...SERVER, 'app'];

export const isBrowserTest = (path) => path.endsWith('.spec.ts');

/** Paths of all test files. @param {Map<string, string[]>} graph */
const testsIn = (graph) => [...graph.keys()].filter((path) => /\.(test|spec)\.tsx?$/.test(path));

const filesBelow = (path) =>
  statSync(join(root, path)).isDirectory()
    ? readdirSync(join(root, path), { withFileTypes: true }).flatMap(({ name }) =>
        ['node_modules', 'dist', 'results', 'test-results', '.expo'].includes(name)
          ? []
          : filesBelow(join(path, name)),
      )
    : [path];

/** All files that a test file depends on, including itself. */
const readBy = (test, graph) => {
  const found = new Set([test]);
  for (const path of found) for (const next of graph.get(path) ?? []) found.add(next);
  const packageName = test.split('/')[0];
  const whole = isBrowserTest(test) ? PRODUCT : found.has(RUNS_SERVER) ? SERVER : [];
  const more = [
    ...FOR_ALL,
    ...(isBrowserTest(test) ? ['e2e/playwright.config.ts'] : FOR_JEST),
    ...(packageName === 'app' ? FOR_APP : []),
    ...(BESIDE[packageName] ?? []),
    ...whole,
  ];
  for (const path of more.flatMap(filesBelow)) {
    // A build doesn't contain test files.
    if (!whole.length || found.has(path) || !/\.(test|spec)\.tsx?$/.test(path)) found.add(path);
  }
  return found;
};

/** All test files with their dependencies, cache keys and recorded durations. */
export const suites = async () => {
  const graph = await importsOf();
  const digests = new Map();
  const digestOf = (path) => {
    if (!digests.has(path)) {
      const bytes = readFileSync(join(root, path));
      digests.set(path, createHash('sha256').update(bytes).digest('hex'));
    }
    return digests.get(path);
  };
  const usual = existsSync(RECORD) ? JSON.parse(readFileSync(RECORD, 'utf8')).specs : {};
  return testsIn(graph).map((path) => {
    const reads = readBy(path, graph);
    const hash = createHash('sha256').update(process.version);
    for (const file of [...reads].sort()) hash.update(file).update(digestOf(file));
    return { path, reads, key: hash.digest('hex'), seconds: usual[path] ?? UNKNOWN_S };
  });
};

const passed = () => (existsSync(PASSED) ? JSON.parse(readFileSync(PASSED, 'utf8')) : {});

/** Test files that have not passed in their current state. */
export const notPassed = (all) => {
  const keys = passed();
  return all.filter(({ path, key }) => keys[path] !== key);
};

/** Records passed test files. @param {Set<string>} paths */
export const keepPassed = (all, paths) => {
  const keys = passed();
  for (const { path, key } of all) {
    if (paths.has(path)) keys[path] = key;
  }
  mkdirSync(dirname(PASSED), { recursive: true });
  writeFileSync(PASSED, JSON.stringify(keys));
};

/** Test files that depend on a file which differs from a commit or is untracked. */
export const affectedSince = (all, commit) => {
  const git = (...args) => execFileSync('git', args, { cwd: root }).toString().split('\n');
  const changed = [
    ...git('diff', '--name-only', commit),
    ...git('ls-files', '--others', '--exclude-standard'),
  ].filter(Boolean);
  return all.filter(({ reads }) => changed.some((path) => reads.has(path)));
};

/**
 * One of several parts of about the same duration: greedy, longest first.
 *
 * @param {number} part 1 to `parts`
 */
export const shardOf = (all, part, parts) => {
  const sums = Array.from({ length: parts }, () => 0);
  return [...all]
    .sort((a, b) => b.seconds - a.seconds || (a.path < b.path ? -1 : 1))
    .filter(({ seconds }) => {
      const least = sums.indexOf(Math.min(...sums));
      sums[least] += seconds;
      return least === part - 1;
    });
};
