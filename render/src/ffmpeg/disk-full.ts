import { FfmpegError } from './run';

/** Codes that the system and SQLite give when there is no room left (errno(3); sqlite.org/rescode). */
const FULL = ['ENOSPC', 'EDQUOT', 'SQLITE_FULL'];

/** Whether something failed because there was no room left to write to. */
export const isDiskFull = (error: unknown): boolean => {
  if (error instanceof FfmpegError) return /No space left|Disk quota exceeded/.test(error.tail);
  const { code, cause } = (error ?? {}) as { code?: unknown; cause?: unknown };
  return (
    (typeof code === 'string' && FULL.includes(code)) || (cause !== undefined && isDiskFull(cause))
  );
};
