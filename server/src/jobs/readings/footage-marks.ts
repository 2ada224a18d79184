import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import { usSchema, type Take, type Track } from '@under-chalk/core/lesson/take';
import { NO_MARKS, type FootageMark, type MarksOf } from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';
import { createHash } from 'node:crypto';
import * as z from 'zod';
import type { MediaStore } from '../../store/media-store';
import { keepRead, readKept } from './kept-reading';

const keptSchema = z.object({
  /** Digest of the track. */
  of: z.string(),
  marks: z.array(z.tuple([usSchema, z.string()])),
});

/** Keeps what a track is known by, up to each of many times. */
export const keepMarks = async (
  media: MediaStore,
  { id, kind, digest }: Track,
  marks: readonly FootageMark[],
): Promise<void> => {
  // Of sound there is nothing that is named by them.
  if (mediumOf(kind) === 'sound') return;
  const kept = { of: digest, marks: marks.map((mark) => [mark.untilUs, mark.digest]) };
  await keepRead(media, media.marks(id), kept);
};

/** What is written is known up to the end of each of these, µs. */
const INK_STEP_US = 2_000_000;

/**
 * What a track of ink is known by, up to the end of each two seconds that are over.
 *
 * @param untilUs what has been recorded of it: nothing more comes of what was before
 */
export const marksOfInk = (records: readonly InkRecord[], untilUs: Us): FootageMark[] => {
  const hash = createHash('sha256');
  const marks: FootageMark[] = [];
  let next = 0;
  for (let endUs = INK_STEP_US; endUs <= untilUs; endUs += INK_STEP_US) {
    for (; next < records.length && records[next]!.at < endUs; next++)
      hash.update(inkLine(records[next]!));
    marks.push({ untilUs: endUs, digest: hash.copy().digest('hex') });
  }
  return marks;
};

/** After its last record it is, up to any time, what it is on the whole. */
const asItEnds = (marks: readonly FootageMark[], digest: string, untilUs: Us): FootageMark[] => {
  const all = [...marks];
  for (
    let endUs = (marks.at(-1)?.untilUs ?? 0) + INK_STEP_US;
    endUs <= untilUs;
    endUs += INK_STEP_US
  )
    all.push({ untilUs: endUs, digest });
  return all;
};

/** What the tracks of some takes are known by, up to a time; nothing where that was not taken while they were recorded. */
export const marksOfTakes = async (takes: Iterable<Take>, media: MediaStore): Promise<MarksOf> => {
  const known = new Map<string, readonly FootageMark[]>();
  for (const take of takes) {
    for (const { id, kind, digest } of take.tracks) {
      const medium = mediumOf(kind);
      if (known.has(id) || medium === 'sound') continue;
      const kept = await readKept(media.marks(id), keptSchema, digest);
      if (!kept) continue;
      const marks = kept.marks.map(([untilUs, of]) => ({ untilUs, digest: of }));
      known.set(id, medium === 'events' ? asItEnds(marks, digest, take.durationUs) : marks);
    }
  }
  return (trackId) => known.get(trackId) ?? NO_MARKS(trackId);
};
