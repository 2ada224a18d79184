import { headerAt, LARGE_HEADER_BYTES, type BoxHeader } from '@under-chalk/core/mp4/box';
import type { FileHandle } from 'node:fs/promises';

/** Bytes read at a time: a file of a million tiny boxes is read in a few hundred steps. */
const WINDOW_BYTES = 256 * 1024;

export interface BoxAt extends BoxHeader {
  /** Where it begins in the file, bytes. */
  readonly at: number;
}

/**
 * The boxes at the top of an MP4, one after another, up to the first that isn't whole.
 *
 * @param size of the file, bytes
 * @param from where the first of them begins, bytes
 */
export async function* boxesOf(file: FileHandle, size: number, from = 0): AsyncGenerator<BoxAt> {
  const window = Buffer.alloc(WINDOW_BYTES);
  let start = from;
  let held = 0;
  for (let at = from; at < size;) {
    if (at < start || at + LARGE_HEADER_BYTES > start + held) {
      start = at;
      held = (await file.read(window, 0, window.length, at)).bytesRead;
    }
    const box = headerAt(window.subarray(at - start, held), 0);
    if (!box || at + box.length > size) return;
    yield { ...box, at };
    at += box.length;
  }
}
