/** Boxes of an MP4 (ISO/IEC 14496-12 §4.2): a length, a name of four letters, and what is in it. */

/** Bytes that the length and the name of a box take, and those of one whose length needs 64 bits. */
export const HEADER_BYTES = 8;
export const LARGE_HEADER_BYTES = 16;
/** Stands for a length that follows the name in 64 bits. */
const LARGE = 1;

export interface BoxHeader {
  readonly name: string;
  /** Of the whole box with its header, bytes. As the file says: it may reach over its end. */
  readonly length: number;
  readonly headerBytes: number;
}

/**
 * The header of the box that begins at a place.
 *
 * @returns null where no box can begin: too few bytes, or a length that doesn't hold its own header
 */
export const headerAt = (bytes: Uint8Array, at: number): BoxHeader | null => {
  if (at + HEADER_BYTES > bytes.length) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const short = view.getUint32(at);
  const large = short === LARGE;
  if (large && at + LARGE_HEADER_BYTES > bytes.length) return null;
  const headerBytes = large ? LARGE_HEADER_BYTES : HEADER_BYTES;
  const length = large ? Number(view.getBigUint64(at + HEADER_BYTES)) : short;
  if (length < headerBytes) return null;
  return { name: String.fromCharCode(...bytes.subarray(at + 4, at + 8)), length, headerBytes };
};

/** What is in the first box of a name within another's content; null where there is none. */
const contentOf = (bytes: Uint8Array, name: string): Uint8Array | null => {
  for (let at = 0, box = headerAt(bytes, at); box; at += box.length, box = headerAt(bytes, at)) {
    if (box.name === name) return bytes.subarray(at + box.headerBytes, at + box.length);
  }
  return null;
};

/**
 * What is in a box in boxes, by their names from the outside in, as `moov`, `trak`, `mdia`.
 *
 * @returns null where one of them is missing
 */
export const contentAt = (bytes: Uint8Array, ...path: readonly string[]): Uint8Array | null =>
  path.reduce<Uint8Array | null>((inside, name) => inside && contentOf(inside, name), bytes);

/** The contents of all boxes of a name within another's content. */
export const contentsOf = (bytes: Uint8Array, name: string): Uint8Array[] => {
  const found: Uint8Array[] = [];
  for (let at = 0, box = headerAt(bytes, at); box; at += box.length, box = headerAt(bytes, at)) {
    if (box.name === name) found.push(bytes.subarray(at + box.headerBytes, at + box.length));
  }
  return found;
};

/**
 * Entries in the longest edit list of a film (ISO/IEC 14496-12 §8.6.6), as the lists say of themselves.
 *
 * @param moov content of its `moov`
 */
export const longestEditList = (moov: Uint8Array): number =>
  contentsOf(moov, 'trak').reduce((most, trak) => {
    const list = contentAt(trak, 'edts', 'elst');
    if (!list || list.length < 8) return most;
    return Math.max(most, new DataView(list.buffer, list.byteOffset).getUint32(4));
  }, 0);

/** Bytes one after another. */
export const joined = (...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> => {
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
};

/** Makes a box of what is to be in it. Less than 4 GB. */
export const boxOf = (name: string, ...content: readonly Uint8Array[]): Uint8Array<ArrayBuffer> => {
  const letters = Uint8Array.from(name, (letter) => letter.charCodeAt(0));
  const box = joined(words(0), letters, ...content);
  new DataView(box.buffer).setUint32(0, box.length);
  return box;
};

/** Numbers of 32 bits, one after another, as content of a box. */
export const words = (...numbers: readonly number[]): Uint8Array<ArrayBuffer> => {
  const bytes = new Uint8Array(numbers.length * 4);
  const view = new DataView(bytes.buffer);
  numbers.forEach((number, index) => view.setUint32(index * 4, number));
  return bytes;
};
