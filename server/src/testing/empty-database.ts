import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { openDatabase } from '../store/database';
import { openSeal } from '../store/link-seal';

/** Kept for all test files of a worker: they run in one realm and load their modules anew (`scripts/jest`). */
const kept = globalThis as typeof globalThis & { emptyDatabase?: Promise<Buffer> };

/** A database with every migration applied and no rows of anybody's. */
const migrated = async (): Promise<Buffer> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-empty-'));
  const file = join(folder, 'empty.sqlite');
  try {
    const database = await openDatabase(file, await openSeal(folder), 'OFF');
    // Everything into the one file: the write-ahead log is not copied.
    await database.raw('PRAGMA wal_checkpoint(TRUNCATE)');
    await database.destroy();
    return await readFile(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

/** Puts a migrated, empty database where there is none yet: 27 migrations take longer than most tests. */
export const copyEmptyDatabase = async (file: string): Promise<void> => {
  if (existsSync(file)) return;
  kept.emptyDatabase ??= migrated();
  await mkdir(dirname(file), { recursive: true });
  await writeFile(file, await kept.emptyDatabase);
};
