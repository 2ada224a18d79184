import type { Us } from './us';

/** A half-open stretch of time: `startUs` is in it, `endUs` is not. */
export interface TimeRange {
  readonly startUs: Us;
  readonly endUs: Us;
}

const isEmpty = (range: TimeRange) => range.endUs <= range.startUs;

/** Length of a range in µs; never negative. */
export const lengthOf = (range: TimeRange): Us => Math.max(0, range.endUs - range.startUs);

/** Whether the two share any time at all. Touching ends do not count. */
export const overlaps = (a: TimeRange, b: TimeRange): boolean =>
  a.startUs < b.endUs && b.startUs < a.endUs;

/** Joins ranges that touch or overlap; empty ones vanish. The result is sorted and disjoint. */
export const merge = (ranges: readonly TimeRange[]): TimeRange[] => {
  const sorted = ranges.filter((range) => !isEmpty(range)).sort((a, b) => a.startUs - b.startUs);
  const merged: TimeRange[] = [];
  for (const range of sorted) {
    const last = merged.at(-1);
    if (last && range.startUs <= last.endUs) {
      merged[merged.length - 1] = {
        startUs: last.startUs,
        endUs: Math.max(last.endUs, range.endUs),
      };
    } else {
      merged.push({ startUs: range.startUs, endUs: range.endUs });
    }
  }
  return merged;
};

/** What of `ranges` is left when every one of `holes` is taken out. Sorted and disjoint. */
export const subtract = (
  ranges: readonly TimeRange[],
  holes: readonly TimeRange[],
): TimeRange[] => {
  let left = merge(ranges);
  for (const hole of holes) {
    if (isEmpty(hole)) continue;
    left = left.flatMap((range) =>
      overlaps(range, hole)
        ? [
            { startUs: range.startUs, endUs: Math.max(range.startUs, hole.startUs) },
            { startUs: Math.min(range.endUs, hole.endUs), endUs: range.endUs },
          ].filter((part) => !isEmpty(part))
        : [range],
    );
  }
  return left;
};

/** The time that is in both lists. Sorted and disjoint. */
export const intersect = (a: readonly TimeRange[], b: readonly TimeRange[]): TimeRange[] =>
  merge(
    a.flatMap((left) =>
      b
        .filter((right) => overlaps(left, right))
        .map((right) => ({
          startUs: Math.max(left.startUs, right.startUs),
          endUs: Math.min(left.endUs, right.endUs),
        })),
    ),
  );
