import { IndexedStore } from './indexed-store';
import { hasOpfs, OpfsStore } from './opfs-store';
import type { PieceStore } from './piece-store';

/**
 * Opens the browser's store for what is recorded: its own files where it has them, else IndexedDB. Null
 * where neither can be had (some private windows): recording then goes straight to the server.
 */
export const openStore = async (): Promise<PieceStore | null> => {
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
