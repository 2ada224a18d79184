import {
  isFull,
  keptTakeSchema,
  StoreFullError,
  type KeptTake,
  type PieceFacts,
  type PieceStore,
} from './piece-store';
import { untilAnswered } from './until-answered';

const ROOT = 'takes';
const ABOUT = 'take.json';
/** Beside the takes, and no folder as they are. */
const RESERVE = 'reserve';
/** Digits of a place in a track: names sort as the places do. */
const DIGITS = 13;

/**
 * A piece's place and its size: a file that is smaller was being written when the end came, and is no piece.
 */
const nameOf = ({ from, size }: PieceFacts) => `${String(from).padStart(DIGITS, '0')}-${size}`;
const pieceOf = (name: string): PieceFacts | null => {
  const parts = /^(\d+)-(\d+)$/.exec(name);
  return parts ? { from: Number(parts[1]), size: Number(parts[2]) } : null;
};
const isMissing = (error: unknown) =>
  error instanceof DOMException && error.name === 'NotFoundError';
/** Another file stands there since it was looked up. */
const isSwapped = (error: unknown) =>
  error instanceof DOMException && error.name === 'NotReadableError';

// Whatever is asked of a handle is asked here: see `untilAnswered`.
const folderIn = (folder: FileSystemDirectoryHandle, name: string, create = false) =>
  untilAnswered(folder, (the) => the.getDirectoryHandle(name, { create }));
const fileIn = (folder: FileSystemDirectoryHandle, name: string, create = false) =>
  untilAnswered(folder, (the) => the.getFileHandle(name, { create }));
const contentOf = (file: FileSystemFileHandle) => untilAnswered(file, (the) => the.getFile());
const remove = (folder: FileSystemDirectoryHandle, name: string, recursive = false) =>
  untilAnswered(folder, (the) => the.removeEntry(name, { recursive })).catch((error: unknown) => {
    if (!isMissing(error)) throw error;
  });

/** Writes a file and has it flushed, or leaves none. @throws StoreFullError */
const writeFile = async (
  folder: FileSystemDirectoryHandle,
  name: string,
  bytes: Uint8Array<ArrayBuffer>,
): Promise<void> => {
  try {
    const handle = await untilAnswered(
      await fileIn(folder, name, true),
      (file) => file.createSyncAccessHandle(),
      (late) => late.close(),
    );
    try {
      const written = handle.write(bytes);
      // In private windows a full store has been seen to answer with a number out of all bounds.
      if (written !== bytes.length) {
        throw new DOMException(`${written} of ${bytes.length} bytes`, 'QuotaExceededError');
      }
      handle.flush();
    } finally {
      handle.close();
    }
  } catch (error) {
    if (!isFull(error)) throw error;
    await remove(folder, name).catch((left: unknown) =>
      console.error('half a piece stays behind', left),
    );
    throw new StoreFullError(error);
  }
};

/** What stands in a file that another tab swaps for a new one every few seconds. */
const textOf = async (file: FileSystemFileHandle): Promise<string> => {
  try {
    return await (await contentOf(file)).text();
  } catch (error) {
    if (!isSwapped(error)) throw error;
    return (await contentOf(file)).text();
  }
};

/** Whether this browser lets files be written in place from a worker, and read back by any page. */
export const hasOpfs = (): boolean =>
  typeof FileSystemFileHandle !== 'undefined' &&
  'getDirectory' in (navigator.storage ?? {}) &&
  'createWritable' in FileSystemFileHandle.prototype;

/**
 * The store in the origin private file system: a folder a take, a folder a track in it, and a file a
 * piece, named by its place. Pieces are written in a worker only: there a file can be written in place
 * and flushed.
 */
export class OpfsStore implements PieceStore {
  readonly #root: FileSystemDirectoryHandle;
  /** Folders of tracks being written, so that they aren't looked up for each piece. */
  readonly #open = new Map<string, FileSystemDirectoryHandle>();

  private constructor(root: FileSystemDirectoryHandle) {
    this.#root = root;
  }

  static async open(): Promise<OpfsStore> {
    const top = await navigator.storage.getDirectory();
    return new OpfsStore(await folderIn(top, ROOT, true));
  }

  async #track(takeId: string, trackId: string): Promise<FileSystemDirectoryHandle> {
    const known = this.#open.get(trackId);
    if (known) return known;
    const track = await folderIn(await folderIn(this.#root, takeId, true), trackId, true);
    this.#open.set(trackId, track);
    return track;
  }

  async keep(take: KeptTake): Promise<void> {
    try {
      const file = await fileIn(await folderIn(this.#root, take.take.id, true), ABOUT, true);
      // Swapped in when it is closed: a crash leaves the old text or the new one.
      await untilAnswered(file, async (the) => {
        const writable = await the.createWritable();
        await writable.write(JSON.stringify(take));
        await writable.close();
      });
    } catch (error) {
      throw isFull(error) ? new StoreFullError(error) : error;
    }
  }

  async take(takeId: string): Promise<KeptTake | null> {
    try {
      const file = await fileIn(await folderIn(this.#root, takeId), ABOUT);
      return keptTakeSchema.parse(JSON.parse(await textOf(file)));
    } catch (error) {
      // Made a moment ago by another tab, and not written yet; or not ours.
      if (!isMissing(error)) console.error('a take kept here can’t be read', takeId, error);
      return null;
    }
  }

  async takes(): Promise<KeptTake[]> {
    const found: KeptTake[] = [];
    for await (const entry of this.#root.values()) {
      const take = entry.kind === 'directory' ? await this.take(entry.name) : null;
      if (take) found.push(take);
    }
    return found.sort((a, b) => (a.startedAt < b.startedAt ? -1 : 1));
  }

  async forget(takeId: string): Promise<void> {
    this.#open.clear();
    await remove(this.#root, takeId, true);
  }

  async write(
    takeId: string,
    trackId: string,
    from: number,
    bytes: Uint8Array<ArrayBuffer>,
  ): Promise<void> {
    const folder = await this.#track(takeId, trackId);
    await writeFile(folder, nameOf({ from, size: bytes.length }), bytes);
  }

  async reserve(bytes: number): Promise<void> {
    const present = await fileIn(this.#root, RESERVE, true);
    if ((await contentOf(present)).size === bytes) return;
    await writeFile(this.#root, RESERVE, new Uint8Array(bytes));
  }

  async useReserve(): Promise<void> {
    await remove(this.#root, RESERVE);
  }

  async pieces(takeId: string, trackId: string): Promise<PieceFacts[]> {
    const folder = await this.#track(takeId, trackId);
    const found: PieceFacts[] = [];
    for await (const entry of folder.values()) {
      const piece = entry.kind === 'file' ? pieceOf(entry.name) : null;
      if (entry.kind !== 'file' || !piece) continue;
      if ((await contentOf(entry)).size === piece.size) found.push(piece);
    }
    return found.sort((a, b) => a.from - b.from);
  }

  async read(takeId: string, trackId: string, piece: PieceFacts): Promise<Uint8Array<ArrayBuffer>> {
    const folder = await this.#track(takeId, trackId);
    const file = await contentOf(await fileIn(folder, nameOf(piece)));
    return new Uint8Array(await file.arrayBuffer());
  }

  async free(takeId: string, trackId: string, pieces: readonly PieceFacts[]): Promise<void> {
    const folder = await this.#track(takeId, trackId);
    for (const piece of pieces) await remove(folder, nameOf(piece));
  }
}
