import type { FootageMark, MediaFile } from '@under-chalk/render';
import { frameToUs } from '@under-chalk/core/time/frames';
import type { Us } from '@under-chalk/core/time/us';
import { createReadStream, createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';

/** A fragment of a track that is being recorded, all of which has come. Its mark is of all up to its end. */
export interface WholeFragment extends FootageMark {
  /** Where it lies in what came, bytes. It begins with a picture that needs none before it. */
  readonly from: number;
  readonly end: number;
  /** When its first picture begins. */
  readonly startUs: Us;
}

/** What has come of a track that is being recorded, as a plain value. */
export interface FootageSoFar {
  /** Where it comes in. */
  readonly path: string;
  /** In order, one at least; before the first lies the head. */
  readonly fragments: readonly WholeFragment[];
}

/** A frame, µs. */
const FRAME_US = frameToUs(1);

/** The last that begins at a time or before it. */
const fragmentAt = (fragments: readonly WholeFragment[], us: Us): number =>
  Math.max(
    0,
    fragments.findLastIndex(({ startUs }) => startUs <= us),
  );

/**
 * Writes what is needed of a track to show a stretch of it: its head, its first fragment, by which its times count from the start as they
 * do in the whole, and those of the stretch. Whole, it could be sought in only by reading all of it.
 *
 * @param out the caller removes it
 */
export const writeSlice = async (
  { path, fragments }: FootageSoFar,
  fromUs: Us,
  toUs: Us,
  out: string,
): Promise<MediaFile> => {
  const first = fragments[0]!;
  const begins = fragmentAt(fragments, fromUs);
  // A picture is on show from half a frame before the time that it was recorded for.
  const ends = fragments.findIndex(({ untilUs }) => untilUs > toUs + FRAME_US);
  const last = fragments[ends < 0 ? fragments.length - 1 : ends]!;
  const append = (from: number, end: number, flags: 'w' | 'a') =>
    pipeline(
      createReadStream(path, { start: from, end: end - 1 }),
      createWriteStream(out, { flags }),
    );
  if (begins <= 1) await append(0, last.end, 'w');
  else {
    await append(0, first.end, 'w');
    await append(fragments[begins]!.from, last.end, 'a');
  }
  return { path: out, demuxer: 'mov' };
};
