import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { openDatabase } from '../store/database';

/** Shared by all test files of a worker: they run in one realm but load our modules again (`scripts/jest`). */
const kept = globalThis as typeof globalThis & { emptyDatabase?: Promise<Buffer> };

/** Bytes of a migrated, empty database. */
const migrated = async (): Promise<Buffer> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-empty-'));
  const file = join(folder, 'empty.sqlite');
  try {
    const database = await openDatabase(file, 'OFF');
    // The write-ahead log is not copied, so move its pages into the file.
    await database.raw('PRAGMA wal_checkpoint(TRUNCATE)');
    await database.destroy();
    return await readFile(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

/** Creates a migrated, empty database if there is none: it is done once for each worker. */
export const copyEmptyDatabase = async (file: string): Promise<void> => {
  if (existsSync(file)) return;
  kept.emptyDatabase ??= migrated();
  await mkdir(dirname(file), { recursive: true });
  await writeFile(file, await kept.emptyDatabase);
};
