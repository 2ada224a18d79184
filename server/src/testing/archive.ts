import { buffer } from 'node:stream/consumers';
import { fromBuffer, type Entry } from 'yauzl';

/** The files of an archive (ZIP) by their names, in order. */
export const filesIn = (archive: Buffer): Promise<Map<string, Buffer>> =>
  new Promise((resolve, reject) => {
    const files = new Map<string, Buffer>();
    fromBuffer(archive, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error);
      zip.on('error', reject);
      zip.on('end', () => resolve(files));
      zip.on('entry', (entry: Entry) => {
        zip.openReadStream(entry, async (failed, stream) => {
          if (failed) return reject(failed);
          files.set(entry.fileName, await buffer(stream));
          zip.readEntry();
        });
      });
      zip.readEntry();
    });
  });
