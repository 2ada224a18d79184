import { BIN_DAYS } from '@under-chalk/core/contract/bin';

/** How long what is thrown away stays in the bin, ms. */
export const BIN_MS = BIN_DAYS * 86_400_000;

/** What was thrown away before this has been in the bin for its time: ISO 8601 in UTC. `now` in ms since 1970. */
export const dueBefore = (now: number): string => new Date(now - BIN_MS).toISOString();
