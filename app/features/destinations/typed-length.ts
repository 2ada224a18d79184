import { parseClock, type Us } from '@under-chalk/core/time/us';
import * as z from 'zod';

/** What a typed length counts. */
export const CLOCK = 'min:s';

/** A length as it is typed: `3:00`, `180` (seconds), or empty for none → µs, or null. */
export const typedLength = z.string().transform((text, context): Us | null => {
  if (text.trim() === '') return null;
  const us = parseClock(text);
  if (us !== null) return us;
  context.addIssue({ code: 'custom', message: 'Minutes and seconds, as 3:00; or nothing.' });
  return z.NEVER;
});
