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

/** Writes a file whose bytes are on the disk when this resolves; its name is forced there by whoever relies on it. */
export const writeSynced = async (path: string, bytes: Uint8Array): Promise<void> => {
  const file = await open(path, 'w');
  try {
    await file.writeFile(bytes);
    await file.sync();
  } finally {
    await file.close();
  }
};
