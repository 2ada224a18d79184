import type { Id } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';

/** A track up to a time, known by what is in it. */
export interface FootageMark {
  /** All that begins before this recorded time is in it, and nothing else that matters. */
  readonly untilUs: Us;
  /** SHA-256 of everything up to there, hexadecimal. */
  readonly digest: string;
}

/**
 * The marks of a track, in order of time; none where it is known as a whole only. What is named by a mark has the same name while the
 * track is recorded, and afterwards.
 */
export type MarksOf = (trackId: Id) => readonly FootageMark[];

export const NO_MARKS: MarksOf = () => [];

/** The first mark that has all of a track up to a time, and what begins at it; undefined where none has. */
export const markAt = (marks: readonly FootageMark[], us: Us): FootageMark | undefined => {
  let low = 0;
  let high = marks.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (marks[middle]!.untilUs > us) high = middle;
    else low = middle + 1;
  }
  return marks[low];
};
