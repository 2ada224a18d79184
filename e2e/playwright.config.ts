import { defineConfig } from '@playwright/test';

const report = process.env.UNDER_CHALK_TEST_REPORT;

export default defineConfig({
  testDir: './src',
  // What is measured against a clock has the machine to itself; all else shares it.
  projects: [
    { name: 'together', grepInvert: /@alone/ },
    { name: 'alone', grep: /@alone/ },
  ],
  workers: 1,
  fullyParallel: false,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ...(report ? [['json', { outputFile: report }] as const] : [])],
  forbidOnly: Boolean(process.env.CI),
  // A second try, for the one machine that nobody watches; what passes at it only is named at the end, to be mended.
  retries: process.env.CI ? 1 : 0,
});
