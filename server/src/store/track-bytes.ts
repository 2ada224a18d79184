import { DataStore, ERRORS, Upload } from '@tus/server';
import { existsSync, mkdirSync } from 'node:fs';
import { open, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';

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
    await file.sync();
    await file.close();
    if (upload.size !== undefined) await this.#keepLength(upload.id, upload.size);
    const folder = await open(this.#folder, 'r');
    await folder.sync();
    await folder.close();
    upload.storage = { type: 'file', path: this.#path(upload.id) };
    return upload;
  }

  /**
   * Writes at an offset and forces it to the disk. What came before a cut connection or a full disk
   * stays: the sender asks for the offset and goes on from there.
   *
   * @returns the offset after it
   * @throws NodeJS.ErrnoException `ENOSPC` when the disk is full
   */
  override async write(bytes: Readable, id: string, offset: number): Promise<number> {
    const file = await open(this.#path(id), 'r+');
    let at = offset;
    try {
      try {
        for await (const chunk of bytes as AsyncIterable<Buffer>) {
          let from = 0;
          while (from < chunk.length) {
            const { bytesWritten } = await file.write(chunk, from, chunk.length - from, at);
            from += bytesWritten;
            at += bytesWritten;
          }
        }
      } finally {
        await file.datasync();
      }
    } finally {
      await file.close();
    }
    const told = this.#told.get(id);
    if (told === at) await this.#keepLength(id, told);
    this.#told.delete(id);
    return at;
  }

  override async getUpload(id: string): Promise<Upload> {
    const facts = await stat(this.#path(id)).catch((error: unknown) => {
      throw isMissing(error) ? ERRORS.FILE_NOT_FOUND : error;
    });
    const length = await readFile(lengthPath(this.#folder, id), 'utf8').catch((error: unknown) => {
      if (isMissing(error)) return null;
      throw error;
    });
    return new Upload({
      id,
      offset: facts.size,
      ...(length === null ? {} : { size: Number(length) }),
      metadata: { trackId: id },
      creation_date: facts.birthtime.toISOString(),
      storage: { type: 'file', path: this.#path(id) },
    });
  }

  override async declareUploadLength(id: string, length: number): Promise<void> {
    this.#told.set(id, length);
  }

  #keepLength(id: string, length: number): Promise<void> {
    return writeWhole(lengthPath(this.#folder, id), String(length));
  }
}

/** Forgets the bytes a track came as, when they have been made into its media. */
export const forgetBytes = async (folder: string, id: string): Promise<void> => {
  await rm(join(folder, id), { force: true });
  await rm(lengthPath(folder, id), { force: true });
};
