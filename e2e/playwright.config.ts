import { defineConfig } from '@playwright/test';

const report = process.env.UNDER_CHALK_TEST_REPORT;

export default defineConfig({
  testDir: './src',
  // Tests tagged @alone measure time, so nothing else may use the cores while they run.
  projects: [
    { name: 'together', grepInvert: /@alone/ },
    { name: 'alone', grep: /@alone/ },
  ],
  workers: 1,
  fullyParallel: false,
  timeout: 240_000,
  // Costs nothing where a test passes; two minutes of work wait behind one another on a busy machine.
  expect: { timeout: 60_000 },
  reporter: [['list'], ...(report ? [['json', { outputFile: report }] as const] : [])],
  forbidOnly: Boolean(process.env.CI),
  // One retry in CI only. Tests that needed it are listed at the end of the run: find the cause.
  retries: process.env.CI ? 1 : 0,
});
