import { FfmpegError } from './run';

/** Codes that the system and SQLite give when there is no room left (errno(3); sqlite.org/rescode). */
const FULL = ['ENOSPC', 'EDQUOT', 'SQLITE_FULL'];

/** Causes that are looked through: an error can be its own. */
const MOST_CAUSES = 8;

/** Whether something failed because there was no room left to write to. */
export const isDiskFull = (error: unknown, causes = 0): boolean => {
  if (error instanceof FfmpegError) return /No space left|Disk quota exceeded/.test(error.tail);
  const { code, cause } = Object(error) as { readonly code?: unknown; readonly cause?: unknown };
  if (typeof code === 'string' && FULL.includes(code)) return true;
  return cause !== undefined && causes < MOST_CAUSES && isDiskFull(cause, causes + 1);
};
