import { copyFile, open, truncate } from 'node:fs/promises';

const HEADER_BYTES = 8;
/** A box whose length stands in 64 bits after its name (ISO/IEC 14496-12 §4.2). */
const LARGE = 1;

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
    const header = Buffer.alloc(HEADER_BYTES * 2);
    let at = 0;
    let end = 0;
    let fragmented = false;
    while (at + HEADER_BYTES <= size) {
      await file.read(header, 0, header.length, at);
      const short = header.readUInt32BE(0);
      const name = header.toString('latin1', 4, 8);
      const length = short === LARGE ? Number(header.readBigUInt64BE(8)) : short;
      if (length < HEADER_BYTES || at + length > size) break;
      at += length;
      fragmented ||= name === 'moof';
      // A fragment is its `moof` and the `mdat` after it; what comes before the first is the head.
      if (name !== 'moof') end = at;
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
