import knex, { type Knex } from 'knex';
import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Synchronous } from '../config';
import { ImmediateClient } from './immediate-client';
import { migrationNames, migrations } from './migrations';

interface RawConnection {
  pragma(text: string): unknown;
}

/** First migration of the versions before the baseline. None of them was released. */
const BEFORE_BASELINE = '001-first-whole';

/** Refuses a database whose tables this version does not know, before anything in it is changed. */
const refuseForeign = async (database: Knex): Promise<void> => {
  if (!(await database.schema.hasTable('knex_migrations'))) return;
  const known = new Set(migrationNames());
  const names: string[] = await database('knex_migrations').orderBy('id').pluck('name');
  const foreign = names.find((name) => !known.has(name));
  if (foreign === undefined) return;
  throw new AppError(names.includes(BEFORE_BASELINE) ? 'folder-older' : 'folder-newer', foreign);
};

/**
 * Opens the database, created if it is missing, and brings its tables up to date.
 *
 * @param synchronous whether a write waits for the disk
 * @throws AppError `folder-older`, `folder-newer`; nothing in it is changed then
 */
export const openDatabase = async (
  file: string,
  synchronous: Synchronous = 'FULL',
): Promise<Knex> => {
  await mkdir(dirname(file), { recursive: true });
  const database = knex({
    client: ImmediateClient as unknown as typeof Knex.Client,
    connection: { filename: file },
    useNullAsDefault: true,
    // One connection: SQLite has one writer, and a queue here phrases a busy error there.
    pool: {
      min: 1,
      max: 1,
      afterCreate: (connection: RawConnection, done: () => void) => {
        connection.pragma('journal_mode = WAL');
        connection.pragma(`synchronous = ${synchronous}`);
        connection.pragma('foreign_keys = ON');
        connection.pragma('busy_timeout = 5000');
        // What is thrown away for good is not left in the file's free pages.
        connection.pragma('secure_delete = ON');
        done();
      },
    },
    migrations: { migrationSource: migrations },
  });
  try {
    await refuseForeign(database);
    await database.migrate.latest();
  } catch (error) {
    await database.destroy();
    throw error;
  }
  return database;
};
