import { open } from 'node:fs/promises';

/** Forces what has been written to a file, or a folder's list of names, to the disk (fsync(2)). */
export const forceToDisk = async (path: string): Promise<void> => {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
};
