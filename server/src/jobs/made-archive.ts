import type { Readable } from 'node:stream';
import type { ZipFile } from 'yazl';

/** An archive (ZIP) that is written while it is read, and how many bytes it will have. */
export interface MadeArchive {
  readonly bytes: number;
  readonly stream: Readable;
}

/** When files were last changed, so to speak: the same is the same archive. Footage and films can't be compressed. */
export const TIMELESS = { mtime: new Date('2000-01-01T00:00:00Z'), compress: false };

/** Nothing more is added: it can be read. */
export const endArchive = async (zip: ZipFile): Promise<MadeArchive> => {
  const bytes = await new Promise<number>((resolve, reject) => {
    zip.on('error', reject);
    // Told when every file has been measured; its types leave out what it is told.
    const whole = resolve as unknown as () => void;
    zip.end({ forceZip64Format: false, comment: '' }, whole);
  });
  return { bytes, stream: zip.outputStream as Readable };
};
