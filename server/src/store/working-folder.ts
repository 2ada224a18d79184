import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

/**
 * Has working files (parts of voices, of pages, of films) made in the data folder instead of the system's, by this process and
 * those that it starts: they are as private as the rest there, and what a killed server left is removed at the next start.
 *
 * @param home the data folder, which is this process's alone
 * @returns the folder
 * @throws Error of the file system; nothing is changed then
 */
export const openWorkingFolder = async (
  home: string,
  environment: NodeJS.ProcessEnv = process.env,
): Promise<string> => {
  const folder = join(home, 'working');
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true, mode: 0o700 });
  // What `os.tmpdir` and other programs go by (POSIX.1-2017, 8.3).
  environment['TMPDIR'] = folder;
  return folder;
};
