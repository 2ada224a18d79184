import { strFromU8, unzipSync } from 'fflate';
import { readOneRoster, type RosterClass } from '@under-chalk/core/class/one-roster';
import { MOST_SIGNS } from '@under-chalk/core/class/roster-table';
import { AppError } from '@under-chalk/core/errors/errors';

/** Largest archive that is opened, and largest file in it, bytes. */
const MOST_ARCHIVE_BYTES = 20_000_000;
const MOST_FILE_BYTES = 20_000_000;

/** What a file of students says: a list, or whole classes. */
export type RosterFileRead =
  | { readonly is: 'list'; readonly text: string }
  | { readonly is: 'classes'; readonly classes: readonly RosterClass[] };

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Text of a list: UTF-8, or what spreadsheets write without it (Windows-1252). */
const textOf = (bytes: Uint8Array): string => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
};

/**
 * Reads a file that students come in.
 *
 * @throws AppError `no-roster` where nothing of the kind is in it
 */
export const readRosterFile = async (file: Blob): Promise<RosterFileRead> => {
  const tooLarge = file.size > MOST_ARCHIVE_BYTES;
  if (tooLarge) throw new AppError('no-roster', `${file.size} bytes`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (!isZip(bytes)) {
    const text = textOf(bytes);
    // Of what isn't text at all nothing is to be had.
    if (text.length > MOST_SIGNS || text.includes('\0')) throw new AppError('no-roster');
    return { is: 'list', text };
  }
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => name.endsWith('.csv') && originalSize <= MOST_FILE_BYTES,
    });
    const byName = Object.entries(files).map(
      ([path, content]) => [path.split('/').at(-1)!, strFromU8(content)] as const,
    );
    return { is: 'classes', classes: readOneRoster(new Map(byName)) };
  } catch (error) {
    throw new AppError('no-roster', String(error));
  }
};
