import { IndexedStore } from './indexed-store';
import { hasOpfs, OpfsStore } from './opfs-store';
import type { PieceStore } from './piece-store';

const open = async (): Promise<PieceStore | null> => {
  if (hasOpfs()) {
    try {
      return await OpfsStore.open();
    } catch (error) {
      console.error('the browser’s files can’t be had', error);
    }
  }
  try {
    return await IndexedStore.open();
  } catch (error) {
    console.error('the browser’s database can’t be had', error);
    return null;
  }
};

let opened: Promise<PieceStore | null> | null = null;

/**
 * The browser's store for what is recorded, opened once for each page or worker: its own files where it
 * has them, else IndexedDB. Null where neither can be had (some private windows): recording then goes
 * straight to the server.
 */
export const openStore = (): Promise<PieceStore | null> => {
  opened ??= open();
  return opened;
};
