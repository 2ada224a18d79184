import { placedIn, type Lesson } from '../lesson/lesson';
import type { Placed } from '../lesson/placement';
import type { Take } from '../lesson/take';
import type { Phrase } from '../sound/phrases';
import { subtract, type TimeRange } from '../time/ranges';
import { ofTake } from '../time/timeline';

/** A line of the column that a take is tidied as: what is kept of a phrase, or what was left out. */
export type ColumnRow = PhraseRow | LeftOut;

type PhraseRow = TimeRange & { readonly kind: 'phrase'; readonly phrase: Phrase };
type LeftOut = TimeRange & {
  readonly kind: 'left-out';
  readonly where: 'start' | 'middle' | 'end';
};

/** Left-over slivers shorter than a frame are not worth a line. */
const LEAST_US = 34_000;

const isWorthALine = ({ startUs, endUs }: TimeRange): boolean => endUs - startUs >= LEAST_US;

/** What is kept of each phrase, where that is worth a line. Both lists are in order, and are gone through side by side. */
const keptOf = (phrases: readonly Phrase[], kept: readonly TimeRange[]): PhraseRow[] => {
  const rows: PhraseRow[] = [];
  for (let i = 0, j = 0; phrases[i] && kept[j];) {
    const phrase = phrases[i]!;
    const startUs = Math.max(phrase.startUs, kept[j]!.startUs);
    const endUs = Math.min(phrase.endUs, kept[j]!.endUs);
    if (endUs - startUs >= LEAST_US) rows.push({ kind: 'phrase', phrase, startUs, endUs });
    if (phrase.endUs < kept[j]!.endUs) i++;
    else j++;
  }
  return rows;
};

/** What a cut leaves of a phrase is no phrase of its own when it is shorter than this, µs. */
const REMNANT_US = 300_000;

/** Whether a cut has left so little of a phrase that nobody wants to cut that by itself. */
const isRemnant = ({ phrase, startUs, endUs }: PhraseRow): boolean =>
  endUs - startUs < Math.min(REMNANT_US, phrase.endUs - phrase.startUs);

/** Joins remnants to the phrase beside them. */
const withoutRemnants = (rows: readonly PhraseRow[]): PhraseRow[] => {
  const joined: PhraseRow[] = [];
  for (const row of rows) {
    const before = joined.at(-1);
    if (before?.endUs === row.startUs && (isRemnant(row) || isRemnant(before))) {
      const phrase = isRemnant(row) ? before.phrase : row.phrase;
      joined[joined.length - 1] = { ...before, phrase, endUs: row.endUs };
    } else joined.push(row);
  }
  return joined;
};

/** Two lists of lines, each in order, as one. */
const merged = (one: readonly ColumnRow[], other: readonly ColumnRow[]): ColumnRow[] => {
  const all: ColumnRow[] = [];
  let next = 0;
  for (const row of one) {
    while (other[next] && other[next]!.startUs < row.startUs) all.push(other[next++]!);
    all.push(row);
  }
  while (other[next]) all.push(other[next++]!);
  return all;
};

/**
 * The column of a take at its place in the film from top to bottom: its phrases as far as they are kept, and in their places the
 * stretches that were cut or trimmed, each as one line however many phrases it covers.
 *
 * @param placed its place in the film, and what is kept of it there
 * @param phrases the take's phrases, which follow on one another from 0 to its end
 */
export const columnOf = (
  lesson: Lesson,
  placed: Placed,
  take: Take,
  phrases: readonly Phrase[],
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
  const heard = withoutRemnants(keptOf(phrases, kept));
  const excluded = subtract([whole], [...kept, ...elsewhere])
    .filter(isWorthALine)
    .map(({ startUs, endUs }): LeftOut => {
      const where = startUs === 0 ? 'start' : endUs === take.durationUs ? 'end' : 'middle';
      return { kind: 'left-out', where, startUs, endUs };
    });
  return merged(heard, excluded);
};
