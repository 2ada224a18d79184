import type { TimeRange } from './ranges';
import type { Us } from './us';

/** A stretch of a take's recorded time, with whatever value is laid over it. */
export interface Laid extends TimeRange {
  readonly takeId: string;
}

/**
 * Stretches with a value, by take: sorted by take and time, and disjoint within a take. What is asked of it
 * takes the logarithm of its length; a change makes a new one and copies it once.
 */
export type Timeline<S extends Laid> = readonly S[];

/** How many stretches come before the first of a take that ends after a time. */
const countBefore = (timeline: Timeline<Laid>, takeId: string, us: Us): number => {
  let low = 0;
  let high = timeline.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const stretch = timeline[middle]!;
    const before = stretch.takeId < takeId || (stretch.takeId === takeId && stretch.endUs <= us);
    if (before) low = middle + 1;
    else high = middle;
  }
  return low;
};

/** The stretches of one take, in order. */
export const ofTake = <S extends Laid>(timeline: Timeline<S>, takeId: string): readonly S[] => {
  const from = countBefore(timeline, takeId, Number.NEGATIVE_INFINITY);
  const end = countBefore(timeline, takeId, Number.POSITIVE_INFINITY);
  return timeline.slice(from, end);
};

/** The stretch that a recorded time lies in. */
export const at = <S extends Laid>(
  timeline: Timeline<S>,
  takeId: string,
  us: Us,
): S | undefined => {
  const stretch = timeline[countBefore(timeline, takeId, us)];
  return stretch?.takeId === takeId && stretch.startUs <= us ? stretch : undefined;
};

/** What lies free round a recorded time that no stretch holds: from the one before to the one after. */
export const freeAround = (timeline: Timeline<Laid>, takeId: string, us: Us): TimeRange => {
  const index = countBefore(timeline, takeId, us);
  const [before, after] = [timeline[index - 1], timeline[index]];
  return {
    startUs: before?.takeId === takeId ? before.endUs : 0,
    endUs: after?.takeId === takeId ? after.startUs : Number.POSITIVE_INFINITY,
  };
};

/** A copy with some of it replaced. */
const spliced = <S>(list: readonly S[], from: number, end: number, by: readonly S[]): S[] => {
  const copy = list.slice();
  copy.splice(from, end - from, ...by);
  return copy;
};

/** Replaces all that lies in a hole by other stretches, which lie in it too; what sticks out is kept. */
const replaced = <S extends Laid>(timeline: Timeline<S>, hole: Laid, by: readonly S[]): S[] => {
  const { takeId, startUs, endUs } = hole;
  const from = countBefore(timeline, takeId, startUs);
  let end = from;
  const before: S[] = [];
  const after: S[] = [];
  for (; end < timeline.length; end++) {
    const stretch = timeline[end]!;
    if (stretch.takeId !== takeId || stretch.startUs >= endUs) break;
    if (stretch.startUs < startUs) before.push({ ...stretch, endUs: startUs });
    if (stretch.endUs > endUs) after.push({ ...stretch, startUs: endUs });
  }
  return spliced(timeline, from, end, [...before, ...by, ...after]);
};

/** Takes a stretch of time out. */
export const clear = <S extends Laid>(timeline: Timeline<S>, hole: Laid): S[] =>
  replaced(timeline, hole, []);

/** Lays a stretch over what is there. */
export const lay = <S extends Laid>(timeline: Timeline<S>, laid: S): S[] =>
  replaced(timeline, laid, [laid]);

/** Lays a value over a stretch; null takes what is there away. */
export const layOrClear = <S extends Laid>(
  timeline: Timeline<S>,
  { takeId, startUs, endUs }: Laid,
  value: Omit<S, keyof Laid> | null,
): S[] => {
  const hole = { takeId, startUs, endUs };
  return value ? lay(timeline, { ...hole, ...value } as S) : clear(timeline, hole);
};

/** Lays a stretch whose value is that of all others: it becomes one with those that it touches. */
export const join = <S extends Laid>(timeline: Timeline<S>, laid: S): S[] => {
  const { takeId } = laid;
  // One that only touches begins where this one ends, or ends where it begins.
  const from = countBefore(timeline, takeId, laid.startUs - 1);
  let { startUs, endUs } = laid;
  let end = from;
  for (; end < timeline.length; end++) {
    const stretch = timeline[end]!;
    if (stretch.takeId !== takeId || stretch.startUs > endUs) break;
    startUs = Math.min(startUs, stretch.startUs);
    endUs = Math.max(endUs, stretch.endUs);
  }
  return spliced(timeline, from, end, [{ ...laid, startUs, endUs }]);
};
