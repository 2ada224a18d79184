import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { columnOf, type ColumnRow } from '@under-chalk/core/film/column';
import type { Film } from '@under-chalk/core/film/film';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import type { Placed } from '@under-chalk/core/lesson/placement';
import { takeNames } from '@under-chalk/core/lesson/take-names';
import type { Take } from '@under-chalk/core/lesson/take';
import { phrasesOf, type Phrase } from '@under-chalk/core/sound/phrases';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { formatClock } from '@under-chalk/core/time/us';
import { levelsQuery } from '../../data/queries';

/** A take at its place in the film, with the lines it is tidied by. */
export interface Column {
  readonly placed: Placed;
  readonly take: Take;
  readonly name: string;
  /** Its place in the order of the film, from 0. */
  readonly at: number;
  readonly line: LevelLine | null;
  /** Null while its sound is being fetched, or it isn't ready. */
  readonly rows: readonly ColumnRow[] | null;
}

/** Phrases of a take's sound are found once. */
const known = new WeakMap<LevelLine, readonly Phrase[]>();

const phrasesIn = (line: LevelLine | null, durationUs: number): readonly Phrase[] => {
  const before = line && known.get(line);
  if (before) return before;
  const phrases = phrasesOf(line, durationUs);
  if (line) known.set(line, phrases);
  return phrases;
};

/** All that stands in the film and can be tidied, in order. */
export const useColumns = (film: Film): Column[] => {
  const { lesson } = film;
  const takes = film.placed.flatMap((placed, at) => {
    const take = takeOf(lesson, placed.takeId);
    return take && take.state !== 'unusable' ? [{ placed, take, at }] : [];
  });
  const ids = [...new Set(takes.flatMap(({ take }) => (take.state === 'ready' ? take.id : [])))];
  const lines = useQueries({
    queries: ids.map(levelsQuery),
    // The same list as long as the same lines are in it.
    combine: (results) => results.map((one) => (one.isPending ? undefined : (one.data ?? null))),
  });
  return useMemo(() => {
    const names = takeNames(lesson);
    return takes.map(({ placed, take, at }) => {
      const line = lines[ids.indexOf(take.id)];
      const rows =
        line === undefined
          ? null
          : columnOf(lesson, placed, take, phrasesIn(line, take.durationUs));
      const name = names.get(take.id)!;
      const isPart = film.placed.filter(({ takeId }) => takeId === take.id).length > 1;
      return {
        ...{ placed, take, at, line: line ?? null, rows },
        // Its parts are told apart by where they begin in it.
        name: isPart ? `${name}, from ${formatClock(placed.startUs)}` : name,
      };
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `takes` follows from the film
  }, [film, lines]);
};

/** The row that a recorded time of a take is in; null outside all of them. Rows are in order. */
export const rowAt = (rows: readonly ColumnRow[], takeUs: number): number | null => {
  let low = 0;
  let high = rows.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const row = rows[middle]!;
    if (takeUs < row.startUs) high = middle - 1;
    else if (takeUs >= row.endUs) low = middle + 1;
    else return middle;
  }
  return null;
};
