import { statfs } from 'node:fs/promises';

/** Room left on the disk that a folder is on, for who isn't its administrator; bytes. */
export const freeBytes = async (folder: string): Promise<number> => {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
};
