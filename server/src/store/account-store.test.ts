import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { AccountStore } from './account-store';
import { openDatabase } from './database';

let folder: string;
let db: Knex;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-accounts-'));
  db = await openDatabase(join(folder, 'under-chalk.sqlite'));
});
afterEach(async () => {
  await db.destroy();
  await rm(folder, { recursive: true, force: true });
});

/** Fills the database up to its page limit. */
const fill = async (): Promise<void> => {
  const [{ page_count: pages }] = (await db.raw('pragma page_count')) as [{ page_count: number }];
  await db.raw(`pragma max_page_count = ${pages + 1}`);
  for (let name = 0; ; name++) {
    try {
      await db('sessions').insert({ token_hash: `filler ${name}`, expires_at: Date.now() + 1e9 });
    } catch (error) {
      expect(error).toMatchObject({ code: 'SQLITE_FULL' });
      return;
    }
  }
};

it('signs a browser in on a full disk, and out again', async () => {
  const accounts = new AccountStore(db);
  await accounts.setUp('Ottilie Marsh', 'low water at half past nine');
  const kept = await accounts.newSession();
  await fill();
  const tokens = [await accounts.newSession(), await accounts.newSession()];
  const areIn = () => Promise.all([kept, ...tokens].map((token) => accounts.isSession(token)));
  expect(await areIn()).toEqual([true, true, true]);
  expect(await accounts.isMark(await accounts.newMark())).toBe(true);
  await accounts.endSession(tokens[0]!);
  expect(await areIn()).toEqual([true, false, true]);
  // Unstored sessions exist in this process only.
  expect(await new AccountStore(db).isSession(tokens[1]!)).toBe(false);
  expect(await new AccountStore(db).isSession(kept)).toBe(true);
});
