import { DataStore, ERRORS, Upload } from '@tus/server';
import { existsSync, mkdirSync } from 'node:fs';
import { open, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { forceToDisk } from './force-to-disk';

const isMissing = (error: unknown) => (error as NodeJS.ErrnoException).code === 'ENOENT';

/** Holds the whole length of a track, once the sender has told it. */
const lengthPath = (folder: string, id: string) => join(folder, `${id}.length`);

/** Writes a small file so that after a power cut it is there whole or not at all. */
const writeWhole = async (path: string, text: string): Promise<void> => {
  const draft = `${path}.draft`;
  const file = await open(draft, 'w');
  try {
    await file.writeFile(text);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(draft, path);
};

/**
 * Bytes of tracks as they come in, for the tus server. A file's size is the upload's offset, and an
 * answer is only given when what it answers for has been forced to the disk (fsync): the recorder then
 * lets go of its own copy. Names of uploads are checked identifiers of tracks.
 */
export class TrackBytes extends DataStore {
  readonly #folder: string;
  /**
   * Lengths told with bytes that are still coming. They count once those bytes are there, so that a
   * sender whose last request was cut off can tell the length again.
   */
  readonly #told = new Map<string, number>();
  /** Tracks of which not everything in the file is known to be on the disk, and up to where it is, bytes. */
  readonly #sure = new Map<string, number>();
  /** Tracks whose bytes from before this process have been forced to the disk. */
  readonly #seen = new Set<string>();

  constructor(folder: string) {
    super();
    this.#folder = folder;
    this.extensions = ['creation', 'creation-defer-length'];
    mkdirSync(folder, { recursive: true });
  }

  #path(id: string): string {
    return join(this.#folder, id);
  }

  has(id: string): boolean {
    return existsSync(this.#path(id));
  }

  override async create(upload: Upload): Promise<Upload> {
    // `wx`: what has come of a track is never begun anew.
    const file = await open(this.#path(upload.id), 'wx');
    this.#seen.add(upload.id);
    await file.sync();
    await file.close();
    if (upload.size !== undefined) await this.#keepLength(upload.id, upload.size);
    await forceToDisk(this.#folder);
    upload.storage = { type: 'file', path: this.#path(upload.id) };
    return upload;
  }

  /**
   * Writes at an offset and forces it to the disk. What came before a cut connection or a full disk
   * stays: the sender asks for the offset and goes on from there. What could not be forced to the disk
   * counts as not come: after such a failure the system may call pages clean that are not (fsync(2)).
   *
   * @returns the offset after it
   * @throws NodeJS.ErrnoException `ENOSPC` when the disk is full
   */
  override async write(bytes: Readable, id: string, offset: number): Promise<number> {
    const file = await open(this.#path(id), 'r+');
    let at = offset;
    let failed: unknown = null;
    try {
      for await (const chunk of bytes as AsyncIterable<Buffer>) {
        // Read to its end all the same: the answer is the disk's own, and not that of a stream torn off.
        if (failed) continue;
        try {
          for (let from = 0; from < chunk.length;) {
            const { bytesWritten } = await file.write(chunk, from, chunk.length - from, at);
            from += bytesWritten;
            at += bytesWritten;
          }
        } catch (error) {
          failed = error;
        }
      }
    } finally {
      try {
        await file.datasync();
        // After a failure there may be more than this, from before.
        if (this.#sure.get(id) !== undefined) await file.truncate(at);
        this.#sure.delete(id);
      } catch (error) {
        if (!this.#sure.has(id)) this.#sure.set(id, offset);
        failed ??= error;
      } finally {
        await file.close();
      }
    }
    if (failed) throw failed;
    const told = this.#told.get(id);
    if (told === at) await this.#keepLength(id, told);
    this.#told.delete(id);
    return at;
  }

  override async getUpload(id: string): Promise<Upload> {
    const facts = await stat(this.#path(id)).catch((error: unknown) => {
      throw isMissing(error) ? ERRORS.FILE_NOT_FOUND : error;
    });
    await this.#makeSure(id);
    const length = await lengthOf(this.#folder, id);
    return new Upload({
      id,
      offset: this.#sure.get(id) ?? facts.size,
      ...(length === null ? {} : { size: length }),
      metadata: { trackId: id },
      creation_date: facts.birthtime.toISOString(),
      storage: { type: 'file', path: this.#path(id) },
    });
  }

  /** What a server before this one wrote may not have been forced to the disk: it is, once. */
  async #makeSure(id: string): Promise<void> {
    if (this.#seen.has(id)) return;
    const file = await open(this.#path(id), 'r+');
    try {
      await file.datasync();
    } finally {
      await file.close();
    }
    this.#seen.add(id);
  }

  override async declareUploadLength(id: string, length: number): Promise<void> {
    this.#told.set(id, length);
  }

  #keepLength(id: string, length: number): Promise<void> {
    return writeWhole(lengthPath(this.#folder, id), String(length));
  }
}

/** The whole length of a track, bytes; null while its sender hasn't told it. */
export const lengthOf = async (folder: string, id: string): Promise<number | null> => {
  try {
    return Number(await readFile(lengthPath(folder, id), 'utf8'));
  } catch (error) {
    if (isMissing(error)) return null;
    throw error;
  }
};

/** Forgets the bytes a track came as, when they have been made into its media. */
export const forgetBytes = async (folder: string, id: string): Promise<void> => {
  await rm(join(folder, id), { force: true });
  await rm(lengthPath(folder, id), { force: true });
};
