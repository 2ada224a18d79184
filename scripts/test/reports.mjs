import { existsSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { root } from '../lib/say.mjs';

/**
 * What the test runners say they did, by their own reports.
 *
 * @typedef {object} Sums
 * @property {number} passed
 * @property {string[]} failed names of tests, and of files that could not be read
 * @property {string[]} skipped
 * @property {string[]} flaky passed only on retry
 * @property {Record<string, { seconds: number, passed: boolean }>} files by path from the project's folder
 */

const read = (path) => (existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null);

/**
 * Sums of Jest's report (`--json`).
 *
 * @returns {Sums | null} null when there is no report
 */
export const jestSums = (path) => {
  const report = read(path);
  if (!report) return null;
  const tests = report.testResults.flatMap((file) => file.assertionResults);
  const named = (...states) =>
    tests.filter((one) => states.includes(one.status)).map((one) => one.fullName);
  // A file that could not even be read has no tests to tell of.
  const broken = report.testResults
    .filter((file) => file.status === 'failed' && file.assertionResults.length === 0)
    .map((file) => file.name.split('/').at(-1));
  const files = report.testResults.map((file) => [
    relative(root, file.name),
    { seconds: (file.endTime - file.startTime) / 1000, passed: file.status === 'passed' },
  ]);
  return {
    passed: named('passed').length,
    failed: [...named('failed'), ...broken],
    skipped: named('pending', 'skipped', 'todo', 'disabled'),
    flaky: [],
    files: Object.fromEntries(files),
  };
};

const specsIn = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsIn)];

/**
 * Sums of Playwright's report (its `json` reporter).
 *
 * @returns {Sums | null} null when there is no report
 */
export const playwrightSums = (path) => {
  const report = read(path);
  if (!report) return null;
  const tests = report.suites.flatMap(specsIn).flatMap(({ title, file, tests: runs }) =>
    runs.map(({ status, results }) => ({
      ...{ name: title, file: join('e2e/src', file), status },
      seconds: results.reduce((sum, { duration }) => sum + duration, 0) / 1000,
    })),
  );
  const named = (status) => tests.filter((one) => one.status === status).map((one) => one.name);
  const files = {};
  for (const { file, status, seconds } of tests) {
    const before = files[file] ?? { seconds: 0, passed: true };
    const passed = before.passed && status !== 'unexpected';
    files[file] = { seconds: before.seconds + seconds, passed };
  }
  return {
    passed: named('expected').length + named('flaky').length,
    failed: [...named('unexpected'), ...(report.errors ?? []).map(({ message }) => message)],
    skipped: named('skipped'),
    flaky: named('flaky'),
    files,
  };
};

/** @param {readonly (Sums | null)[]} all */
export const addedUp = (all) => {
  const sums = { passed: 0, failed: [], skipped: [], flaky: [], files: {} };
  for (const one of all) {
    if (!one) continue;
    sums.passed += one.passed;
    sums.failed.push(...one.failed);
    sums.skipped.push(...one.skipped);
    sums.flaky.push(...one.flaky);
    // The tests of one file may be in two reports.
    for (const [path, { seconds, passed }] of Object.entries(one.files)) {
      const before = sums.files[path] ?? { seconds: 0, passed: true };
      sums.files[path] = {
        seconds: before.seconds + seconds,
        passed: before.passed && passed,
      };
    }
  }
  return sums;
};

/** The sums in lines; the last is the one that machines read. @param {Sums} sums */
export const sumsInLines = ({ passed, failed, skipped, flaky }) => [
  ...failed.map((name) => `failed: ${name}`),
  ...skipped.map((name) => `skipped: ${name}`),
  ...flaky.map((name) => `passed only on retry: ${name}`),
  `${passed} passed, ${failed.length} failed, ${skipped.length} skipped`,
];
