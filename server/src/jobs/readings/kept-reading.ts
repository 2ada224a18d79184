import { readFile, rename } from 'node:fs/promises';
import type * as z from 'zod';
import { writeSynced } from '../../store/force-to-disk';
import type { MediaStore } from '../../store/media-store';

/** A reading as it is kept: with the digest of what it was read of. */
interface Kept {
  readonly of: string;
}

/**
 * A reading that is kept beside its track; null where there is none, where it isn't whole or of another form, or was read of
 * something else: it is then read anew.
 *
 * @param path where it is kept
 * @param digest of what it has to be of
 */
export const readKept = async <R extends Kept>(
  path: string,
  schema: z.ZodType<R>,
  digest: string,
): Promise<R | null> => {
  try {
    const read = schema.parse(JSON.parse(await readFile(path, 'utf8')));
    return read.of === digest ? read : null;
  } catch {
    return null;
  }
};

/** Keeps a reading; what is there is there whole. */
export const keepRead = async <R extends Kept>(
  media: MediaStore,
  path: string,
  reading: R,
): Promise<void> => {
  const draft = media.draft();
  await writeSynced(draft, Buffer.from(JSON.stringify(reading)));
  await rename(draft, path);
};
