import { spawn } from 'node:child_process';
import { once } from 'node:events';
import knex from 'knex';
import { mkdtemp } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from './database';

/** Another process that writes, and keeps others from writing for a second. */
const WRITER = `
  const [, driver, file] = process.argv;
  const database = new (require(driver))(file);
  database.exec('BEGIN IMMEDIATE');
  database.exec("insert into settings (name, value) values ('theirs', '1')");
  console.log('writes');
  setTimeout(() => { database.exec('COMMIT'); database.close(); }, 1_000);
`;

it('waits for another process that writes, and loses neither’s', async () => {
  const home = await mkdtemp(join(tmpdir(), 'under-chalk-database-'));
  const file = join(home, 'test.sqlite');
  const database = await openDatabase(file);
  const driver = createRequire(__filename).resolve('better-sqlite3');
  const other = spawn(process.execPath, ['-e', WRITER, driver, file], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  try {
    await once(other.stdout, 'data');
    await database.transaction(async (trx) => {
      await trx('settings').select('name');
      await trx('settings').insert({ name: 'ours', value: '1' });
    });
    const names: string[] = await database('settings')
      .whereIn('name', ['ours', 'theirs'])
      .pluck('name');
    expect(names.sort()).toEqual(['ours', 'theirs']);
  } finally {
    other.kill();
    await database.destroy();
  }
});

it.each([
  ['before the baseline', ['001-first-whole', '002-destinations'], 'folder-older'],
  ['of a newer version', ['2026-12-baseline', '2031-01-holograms'], 'folder-newer'],
])('refuses a database %s, and leaves it as it is', async (_, names, code) => {
  const home = await mkdtemp(join(tmpdir(), 'under-chalk-database-'));
  const file = join(home, 'test.sqlite');
  const open = () =>
    knex({ client: 'better-sqlite3', connection: { filename: file }, useNullAsDefault: true });
  const before = open();
  await before.schema.createTable('knex_migrations', (table) => {
    table.increments();
    table.string('name');
  });
  await before('knex_migrations').insert(names.map((name) => ({ name })));
  await before.destroy();
  await expect(openDatabase(file)).rejects.toMatchObject({ code });
  const after = open();
  const tables: string[] = await after('sqlite_master').where({ type: 'table' }).pluck('name');
  expect(tables.filter((name) => !name.startsWith('sqlite_'))).toEqual(['knex_migrations']);
  expect(await after('knex_migrations').pluck('name')).toEqual(names);
  await after.destroy();
});
