import { AppError } from '@under-chalk/core/errors/errors';
import knex from 'knex';
import { chmod, mkdir } from 'node:fs/promises';
import { join } from 'node:path';

/** The lock is that of an SQLite file with nothing in it: the system lets go of it when the process ends, however it ends. */
const LOCK_FILE = 'in-use.lock';

/**
 * Takes a data folder for this process, made where it is missing, and for nobody but its owner to read.
 *
 * @returns lets go of it
 * @throws AppError `folder-in-use` when another process has it; NodeJS.ErrnoException when it can't be made
 */
export const lockFolder = async (home: string): Promise<() => Promise<void>> => {
  await mkdir(home, { recursive: true, mode: 0o700 });
  await chmod(home, 0o700);
  const lock = knex({
    client: 'better-sqlite3',
    connection: { filename: join(home, LOCK_FILE) },
    useNullAsDefault: true,
    pool: { min: 1, max: 1, idleTimeoutMillis: 2 ** 31 - 1 },
  });
  try {
    await lock.raw('PRAGMA busy_timeout = 300');
    await lock.raw('PRAGMA locking_mode = EXCLUSIVE');
    await lock.raw('BEGIN EXCLUSIVE');
  } catch (error) {
    await lock.destroy();
    const busy = (error as { code?: string }).code?.startsWith('SQLITE_BUSY');
    throw busy ? new AppError('folder-in-use', home) : error;
  }
  return () => lock.destroy();
};
