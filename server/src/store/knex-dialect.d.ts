declare module 'knex/lib/dialects/better-sqlite3/index.js' {
  const client: unknown;
  export = client;
}
