import { headerAt, LARGE_HEADER_BYTES } from '@under-chalk/core/mp4/box';
import { copyFile, open, truncate } from 'node:fs/promises';

/**
 * Where the last whole fragment of a fragmented MP4 ends, in bytes: a recording that was torn off ends in
 * the middle of one, and a decoder would stumble over its last picture. Walks over the boxes at the top.
 *
 * @returns the size of the file when it ends with a whole one, or isn't fragmented
 */
export const wholeFragmentsEnd = async (path: string): Promise<number> => {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    const header = Buffer.alloc(LARGE_HEADER_BYTES);
    let at = 0;
    let end = 0;
    let fragmented = false;
    while (at < size) {
      const { bytesRead } = await file.read(header, 0, header.length, at);
      const box = headerAt(header.subarray(0, bytesRead), 0);
      if (!box || at + box.length > size) break;
      at += box.length;
      fragmented ||= box.name === 'moof';
      // A fragment is its `moof` and the `mdat` after it; what comes before the first is the head.
      if (box.name !== 'moof') end = at;
    }
    return fragmented ? end : size;
  } finally {
    await file.close();
  }
};

/**
 * A copy of a torn file that ends with its last whole fragment. The file itself stays as it is: more of it
 * may come.
 *
 * @returns whether there was anything to leave out; else no copy is made
 */
export const copyWholeFragments = async (path: string, copy: string): Promise<boolean> => {
  const end = await wholeFragmentsEnd(path);
  const file = await open(path, 'r');
  const { size } = await file.stat();
  await file.close();
  if (end === size || end === 0) return false;
  await copyFile(path, copy);
  await truncate(copy, end);
  return true;
};
