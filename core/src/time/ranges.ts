import type { Us } from './us';

/** A half-open stretch of time: `startUs` is in it, `endUs` is not. */
export interface TimeRange {
  readonly startUs: Us;
  readonly endUs: Us;
}

const isEmpty = (range: TimeRange) => range.endUs <= range.startUs;

/** Length of a range in µs; never negative. */
export const lengthOf = (range: TimeRange): Us => Math.max(0, range.endUs - range.startUs);

/** Length of all ranges together, µs. */
export const totalOf = (ranges: readonly TimeRange[]): Us =>
  ranges.reduce((sum, range) => sum + lengthOf(range), 0);

/** The middle of a range, on a whole µs. */
export const middleOf = ({ startUs, endUs }: TimeRange): Us => Math.round((startUs + endUs) / 2);

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

/** Whether ranges are none of them empty, and each ends before the next begins: as {@link merge} would give them. */
const areMerged = (ranges: readonly TimeRange[]): boolean => {
  for (let at = 0; at < ranges.length; at++) {
    if (isEmpty(ranges[at]!) || (at > 0 && ranges[at]!.startUs <= ranges[at - 1]!.endUs))
      return false;
  }
  return true;
};

/** What of `ranges` is left when every one of `holes` is taken out. Sorted and disjoint. */
export const subtract = (
  ranges: readonly TimeRange[],
  holes: readonly TimeRange[],
): TimeRange[] => {
  const out = areMerged(holes) ? holes : merge(holes);
  const left: TimeRange[] = [];
  let next = 0;
  for (const { startUs, endUs } of merge(ranges)) {
    // Both go forward: no hole is looked at for a range that begins after it.
    while (out[next] && out[next]!.endUs <= startUs) next++;
    let from = startUs;
    for (let at = next; out[at] && out[at]!.startUs < endUs; at++) {
      if (out[at]!.startUs > from) left.push({ startUs: from, endUs: out[at]!.startUs });
      from = Math.max(from, out[at]!.endUs);
    }
    if (from < endUs) left.push({ startUs: from, endUs });
  }
  return left;
};

/** The time that is in both lists. Sorted and disjoint. */
export const intersect = (a: readonly TimeRange[], b: readonly TimeRange[]): TimeRange[] => {
  const [left, right] = [merge(a), merge(b)];
  const common: TimeRange[] = [];
  for (let i = 0, j = 0; left[i] && right[j];) {
    const startUs = Math.max(left[i]!.startUs, right[j]!.startUs);
    const endUs = Math.min(left[i]!.endUs, right[j]!.endUs);
    if (startUs < endUs) common.push({ startUs, endUs });
    if (left[i]!.endUs < right[j]!.endUs) i++;
    else j++;
  }
  return common;
};
