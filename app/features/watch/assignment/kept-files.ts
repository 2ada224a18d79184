import { openDB, type IDBPDatabase } from 'idb';

const NAME = 'under-chalk-submissions';
const FILES = 'files';

let opened: Promise<IDBPDatabase> | null = null;
const open = (): Promise<IDBPDatabase> =>
  (opened ??= openDB(NAME, 1, {
    upgrade: (db) => {
      db.createObjectStore(FILES);
    },
  }));

// Storage can be closed to us (a private window), or full: then what was chosen lives as long as the page.
const here = new Map<string, Blob>();

/** Keeps the bytes of a file until they have been sent: a reload, a closed tab, a lost line don't lose them. */
export const keepFile = async (id: string, bytes: Blob): Promise<void> => {
  here.set(id, bytes);
  await open()
    .then((db) => db.put(FILES, bytes, id))
    .catch(() => undefined);
};

/** Null where they are gone. */
export const keptFile = async (id: string): Promise<Blob | null> => {
  const inPage = here.get(id);
  if (inPage) return inPage;
  const kept: unknown = await open()
    .then((db) => db.get(FILES, id) as Promise<unknown>)
    .catch(() => null);
  return kept instanceof Blob ? kept : null;
};

export const dropFile = async (id: string): Promise<void> => {
  here.delete(id);
  await open()
    .then((db) => db.delete(FILES, id))
    .catch(() => undefined);
};
