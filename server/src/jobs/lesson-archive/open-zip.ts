import { AppError } from '@under-chalk/core/errors/errors';
import type { Readable } from 'node:stream';
import { open, type Entry, type ZipFile } from 'yauzl';

/** Unpacked, an archive of footage is hardly larger than it is; its text may be. */
const MOST_SWELLING = 10;
const ALLOWED_SWELLING_BYTES = 50_000_000;
const MOST_FILES = 10_000;

/** An archive that is read, file by file. Whatever its names say, nothing is written by them. */
export interface ZipArchive {
  /** Bytes that a file has unpacked; null where there is none of that name. */
  bytesOf(name: string): number | null;
  /** The bytes of a file and their check (CRC-32). @throws AppError `archive-lacking` */
  read(name: string): Promise<{ readonly bytes: Readable; readonly crc32: number }>;
  close(): void;
}

const unreadable = (error: unknown) =>
  error instanceof AppError ? error : new AppError('archive-unreadable', String(error));

const entriesOf = (zip: ZipFile): Promise<Map<string, Entry>> =>
  new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>();
    zip.on('error', reject);
    zip.on('end', () => resolve(entries));
    zip.on('entry', (entry: Entry) => {
      // Two of one name: which of them is meant depends on who reads it.
      if (entries.has(entry.fileName) || entries.size >= MOST_FILES || entry.isEncrypted()) {
        reject(new AppError('archive-unreadable', `entry ${entries.size}`));
        return;
      }
      entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.readEntry();
  });

/**
 * Opens an archive (ZIP) that may be anybody's, and looks at what it says is in it.
 *
 * @throws AppError `archive-unreadable`, `archive-swollen`
 */
export const openZip = async (path: string): Promise<ZipArchive> => {
  const zip = await new Promise<ZipFile>((resolve, reject) => {
    // It refuses names that lead elsewhere, and bytes that are more or fewer than was said.
    const options = { lazyEntries: true, autoClose: false, strictFileNames: true };
    open(path, options, (error, opened) => {
      if (error) reject(unreadable(error));
      else resolve(opened);
    });
  });
  try {
    const entries = await entriesOf(zip);
    const sum = (of: (entry: Entry) => number) =>
      [...entries.values()].reduce((bytes, entry) => bytes + of(entry), 0);
    const unpacked = sum(({ uncompressedSize }) => uncompressedSize);
    const packed = sum(({ compressedSize }) => compressedSize);
    if (unpacked > packed * MOST_SWELLING + ALLOWED_SWELLING_BYTES)
      throw new AppError('archive-swollen', `${unpacked} bytes of ${packed}`);
    return {
      bytesOf: (name) => entries.get(name)?.uncompressedSize ?? null,
      read: (name) =>
        new Promise((resolve, reject) => {
          const entry = entries.get(name);
          if (!entry) return reject(new AppError('archive-lacking', name));
          zip.openReadStream(entry, (error, stream) => {
            if (error) reject(unreadable(error));
            else resolve({ bytes: stream, crc32: entry.crc32 });
          });
        }),
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw unreadable(error);
  }
};
