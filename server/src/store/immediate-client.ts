import type { Knex } from 'knex';
// @ts-expect-error Knex declares no types for its dialects, and has no setting for how SQLite begins a transaction.
import BetterSqlite3Client from 'knex/lib/dialects/better-sqlite3/index.js';

interface Query {
  readonly sql: string;
}
interface Dialect {
  _query(connection: unknown, query: Query): Promise<Query>;
}
const Base = BetterSqlite3Client as unknown as new (config: Knex.Config) => Dialect;

/**
 * Knex's SQLite client whose transactions ask for the right to write when they begin, and wait for it (`busy_timeout`). One that only
 * asks when it first writes is refused at once where another process has written meanwhile (sqlite.org/lang_transaction.html, 2.2).
 */
export class ImmediateClient extends Base {
  override _query(connection: unknown, query: Query): Promise<Query> {
    return super._query(
      connection,
      query.sql === 'BEGIN;' ? { ...query, sql: 'BEGIN IMMEDIATE;' } : query,
    );
  }
}
