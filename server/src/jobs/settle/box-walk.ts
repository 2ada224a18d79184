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
 */
export async function* boxesOf(file: FileHandle, size: number): AsyncGenerator<BoxAt> {
  const window = Buffer.alloc(WINDOW_BYTES);
  let from = 0;
  let held = 0;
  for (let at = 0; at < size;) {
    if (at < from || at + LARGE_HEADER_BYTES > from + held) {
      from = at;
      held = (await file.read(window, 0, window.length, at)).bytesRead;
    }
    const box = headerAt(window.subarray(at - from, held), 0);
    if (!box || at + box.length > size) return;
    yield { ...box, at };
    at += box.length;
  }
}
