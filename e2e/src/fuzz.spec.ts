import { expect, test } from '@playwright/test';
import { fuzz } from './fuzz';

/** Thirty hostile files; `npm run fuzz` tries hundreds. */
test('hostile files are processed, one way or the other, and end nothing', async () => {
  const { faults, ready } = await fuzz(Array.from({ length: 30 }, (_, seed) => seed + 1));
  expect(faults).toEqual([]);
  // Some of them can still be played, or nothing has been tried.
  expect(ready).toBeGreaterThan(3);
});
