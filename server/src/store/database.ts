import knex, { type Knex } from 'knex';
import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import { migrationSource } from './migrations';

interface RawConnection {
  pragma(text: string): unknown;
}

/** Opens the database, made where it is missing, and brings its tables up to date. */
export const openDatabase = async (file: string): Promise<Knex> => {
  await mkdir(dirname(file), { recursive: true });
  const database = knex({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
    // One connection: SQLite has one writer, and a queue here beats a busy error there.
    pool: {
      min: 1,
      max: 1,
      afterCreate: (connection: RawConnection, done: () => void) => {
        connection.pragma('journal_mode = WAL');
        connection.pragma('synchronous = FULL');
        connection.pragma('foreign_keys = ON');
        connection.pragma('busy_timeout = 5000');
        done();
      },
    },
    migrations: { migrationSource },
  });
  await database.migrate.latest();
  return database;
};
