import { existsSync, readFileSync } from 'node:fs';

/**
 * What the test runners say they did, by their own reports.
 *
 * @typedef {{ passed: number, failed: string[], skipped: string[], secondTry: string[] }} Sums
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
  return {
    passed: named('passed').length,
    failed: [...named('failed'), ...broken],
    skipped: named('pending', 'skipped', 'todo', 'disabled'),
    secondTry: [],
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
  const tests = report.suites
    .flatMap(specsIn)
    .flatMap((spec) => spec.tests.map((test) => ({ name: spec.title, status: test.status })));
  const named = (status) => tests.filter((one) => one.status === status).map((one) => one.name);
  return {
    passed: named('expected').length + named('flaky').length,
    failed: named('unexpected'),
    skipped: named('skipped'),
    secondTry: named('flaky'),
  };
};

/** @param {readonly (Sums | null)[]} all */
export const addedUp = (all) =>
  all.filter(Boolean).reduce(
    (sum, one) => ({
      passed: sum.passed + one.passed,
      failed: [...sum.failed, ...one.failed],
      skipped: [...sum.skipped, ...one.skipped],
      secondTry: [...sum.secondTry, ...one.secondTry],
    }),
    { passed: 0, failed: [], skipped: [], secondTry: [] },
  );

/** The sums in lines; the last is the one that machines read. @param {Sums} sums */
export const sumsInLines = ({ passed, failed, skipped, secondTry }) => [
  ...failed.map((name) => `failed: ${name}`),
  ...skipped.map((name) => `skipped: ${name}`),
  ...secondTry.map((name) => `passed at the second try only: ${name}`),
  `${passed} passed, ${failed.length} failed, ${skipped.length} skipped`,
];
