import knex, { type Knex } from 'knex';
import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Synchronous } from '../config';
import type { LinkSeal } from './link-seal';
import { ImmediateClient } from './immediate-client';
import { migrationsWith } from './migrations';

interface RawConnection {
  pragma(text: string): unknown;
}

/**
 * Opens the database, made where it is missing, and brings its tables up to date.
 *
 * @param seal what tokens of links are kept with
 * @param synchronous whether a write waits for the disk
 */
export const openDatabase = async (
  file: string,
  seal: LinkSeal,
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
    migrations: { migrationSource: migrationsWith(seal) },
  });
  await database.migrate.latest();
  return database;
};
