/** Containers of footage that can be opened. */
export type Container = 'mov' | 'matroska';

/** Bytes that it takes to tell. */
export const HEAD_BYTES = 12;

/** ISO/IEC 14496-12 §4.3: a file type box comes first. Older MOV files may begin otherwise. */
const FIRST_BOXES = ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip'];
/** RFC 8794 §8.1: EBML's own identifier. */
const EBML = [0x1a, 0x45, 0xdf, 0xa3];

/** The container that a file is, told by its first {@link HEAD_BYTES} and never by its name; null: none of these. */
export const containerIn = (head: Uint8Array): Container | null => {
  const box = String.fromCharCode(...head.slice(4, 8));
  if (FIRST_BOXES.includes(box)) return 'mov';
  return EBML.every((byte, at) => head[at] === byte) ? 'matroska' : null;
};
