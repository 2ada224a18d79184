import { placedIn, type Lesson } from '../lesson/lesson';
import type { Placed } from '../lesson/placement';
import type { Take } from '../lesson/take';
import type { Beat } from '../sound/beats';
import { subtract, type TimeRange } from '../time/ranges';
import { ofTake } from '../time/timeline';

/** A line of the column that a take is tidied as: what is kept of a beat, or what was left out. */
export type ColumnRow = TimeRange &
  (
    | { readonly kind: 'beat'; readonly beat: Beat }
    | { readonly kind: 'left-out'; readonly where: 'start' | 'middle' | 'end' }
  );

/** Left-over slivers shorter than a frame are not worth a line. */
const LEAST_US = 34_000;

const isWorthALine = ({ startUs, endUs }: TimeRange): boolean => endUs - startUs >= LEAST_US;

/** What is kept of each beat. Both lists are in order, and are gone through side by side. */
const keptOf = (beats: readonly Beat[], kept: readonly TimeRange[]): ColumnRow[] => {
  const rows: ColumnRow[] = [];
  for (let i = 0, j = 0; beats[i] && kept[j];) {
    const beat = beats[i]!;
    const startUs = Math.max(beat.startUs, kept[j]!.startUs);
    const endUs = Math.min(beat.endUs, kept[j]!.endUs);
    if (startUs < endUs) rows.push({ kind: 'beat', beat, startUs, endUs });
    if (beat.endUs < kept[j]!.endUs) i++;
    else j++;
  }
  return rows;
};

/** What a cut leaves of a beat is no beat of its own when it is shorter than this, µs. */
const REMNANT_US = 300_000;

/** Joins what a cut has left of a beat to the beat beside it: nobody wants to cut that by itself. */
const withoutRemnants = (rows: readonly ColumnRow[]): ColumnRow[] => {
  const joined: ColumnRow[] = [];
  for (const row of rows) {
    const before = joined.at(-1);
    if (row.kind === 'beat' && before?.kind === 'beat' && before.endUs === row.startUs) {
      const remains = ({ beat, startUs, endUs }: ColumnRow & { kind: 'beat' }) =>
        endUs - startUs < Math.min(REMNANT_US, beat.endUs - beat.startUs);
      if (remains(row) || remains(before)) {
        const beat = remains(row) ? before.beat : row.beat;
        joined[joined.length - 1] = { ...before, beat, endUs: row.endUs };
        continue;
      }
    }
    joined.push(row);
  }
  return joined;
};

/**
 * The column of a take at its place in the film from top to bottom: its beats as far as they are kept, and in their places the
 * stretches that were cut or trimmed, each as one line however many beats it covers.
 *
 * @param placed its place in the film, and what is kept of it there
 * @param beats the take's beats, which follow on one another from 0 to its end
 */
export const columnOf = (
  lesson: Lesson,
  placed: Placed,
  take: Take,
  beats: readonly Beat[],
): ColumnRow[] => {
  const whole = { startUs: 0, endUs: take.durationUs };
  const window = {
    startUs: Math.min(placed.startUs, take.durationUs),
    endUs: Math.min(placed.endUs ?? take.durationUs, take.durationUs),
  };
  const cuts = ofTake(lesson.decisions.cuts, take.id);
  const kept = subtract([window], cuts);
  // What stands elsewhere in the film isn't left out; what was cut is, at each of its places.
  const elsewhere = subtract(
    placedIn(lesson)
      .filter(({ id, takeId }) => takeId === take.id && id !== placed.id)
      .map(({ startUs, endUs }) => ({ startUs, endUs: endUs ?? take.durationUs })),
    [window],
  );
  const rows: ColumnRow[] = [
    ...withoutRemnants(keptOf(beats, kept).filter(isWorthALine)),
    ...subtract([whole], [...kept, ...elsewhere]).map((range) => ({
      kind: 'left-out' as const,
      where:
        range.startUs === 0
          ? ('start' as const)
          : range.endUs === take.durationUs
            ? ('end' as const)
            : ('middle' as const),
      ...range,
    })),
  ];
  return rows.filter(isWorthALine).sort((a, b) => a.startUs - b.startUs);
};
