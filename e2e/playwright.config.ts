import { defineConfig } from '@playwright/test';

/** Specs that nothing is measured in: two of them at a time. */
const BESIDE = [
  'accounts',
  'bundles',
  'class-shelf',
  'classes',
  'course-site',
  'course-site-joined',
  'course-week',
  'film',
  'fuzz',
  'hand-ins',
  'hand-out',
  'last-look',
  'lesson-list',
  'manners',
  'moments',
  'personal-film',
  'photographs',
  'plan',
  'proxy',
  'ready',
  'room',
  'screens',
  'server',
  'states',
  'student-pages',
  'tidy-moves',
  'tidy',
  'touches',
  'unit-order',
  'words',
].map((name) => `${name}.spec.ts`);

export default defineConfig({
  testDir: './src',
  // Recording is done in real time on two cores: one after another, or they disturb each other.
  projects: [
    { name: 'beside', testMatch: BESIDE },
    { name: 'alone', testMatch: '*.spec.ts', testIgnore: BESIDE },
  ],
  workers: 1,
  fullyParallel: false,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: [
    ['list'],
    ...(process.env['UNDER_CHALK_TEST_REPORT']
      ? [['json', { outputFile: process.env['UNDER_CHALK_TEST_REPORT'] }] as const]
      : []),
  ],
  forbidOnly: Boolean(process.env['CI']),
  // Recording happens in real time; a machine that stood still for a moment is given a second try, and the
  // report says so ("flaky").
  retries: 1,
});
