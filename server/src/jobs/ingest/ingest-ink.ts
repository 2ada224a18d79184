import { PAGE_PX } from '@under-chalk/core/ink/page';
import { inkLine, readInk, type InkRecord } from '@under-chalk/core/ink/record';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Us } from '@under-chalk/core/time/us';
import type { FootageMark } from '@under-chalk/render';
import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { writeSynced } from '../../store/force-to-disk';
import { marksOfInk } from '../readings/footage-marks';

/** A day of writing without a pause comes to less. */
const MOST_BYTES = 256_000_000;

/** What a track of ink comes to. */
export interface IngestedInk {
  readonly durationUs: Us;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly bytes: number;
  /** SHA-256 of its records, hexadecimal. */
  readonly digest: string;
  /** What it is known by, up to each of many times. */
  readonly marks: readonly FootageMark[];
  /** Every byte that had come in is in it. */
  readonly complete: boolean;
}

/** Whether a record is of something to be seen: over what is captured, a page is nothing until it is written on, or pointed at. */
export const isSeen = (record: InkRecord): boolean =>
  record.do === 'begin' ||
  record.do === 'point' ||
  record.do === 'press' ||
  (record.do === 'page' && record.paper.ruling !== 'none');

/**
 * Makes the ink of a track from what has come: the records that are ones, a line each.
 *
 * @returns null when there are none, `nothing` where none of them is of anything to be seen
 * @throws AppError `ink-unreadable` for more than anybody can write
 */
export const ingestInk = async (
  incoming: string,
  out: string,
): Promise<IngestedInk | 'nothing' | null> => {
  const { size } = await stat(incoming);
  if (size > MOST_BYTES) throw new AppError('ink-unreadable', `${size} bytes`);
  const text = await readFile(incoming, 'utf8');
  const { records, unread } = readInk(text);
  const last = records.at(-1);
  if (!last) return null;
  if (!records.some(isSeen)) return 'nothing';
  const bytes = Buffer.from(records.map(inkLine).join(''));
  await writeSynced(out, bytes);
  return {
    durationUs: last.at,
    ...PAGE_PX,
    bytes: bytes.length,
    digest: createHash('sha256').update(bytes).digest('hex'),
    marks: marksOfInk(records, last.at),
    complete: unread === 0 && text.endsWith('\n'),
  };
};
