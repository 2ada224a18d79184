import { expect, test } from '@playwright/test';
import { recordLong } from './long';

/** `npm run bench recorder -- --long` records two hours in this way. */

test(
  'five minutes on a clock that runs fast, cut off for a quarter of them: nothing is lost',
  { tag: '@alone' },
  async () => {
    const { seconds, lostMs, corrupt, endsApartMs } = await recordLong(300, 10);
    expect(seconds).toBeGreaterThanOrEqual(295);
    expect({ lostMs, corrupt }).toEqual({ lostMs: 0, corrupt: false });
    expect(endsApartMs).toBeLessThan(2_000);
  },
);
