import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Film } from '@under-chalk/core/film/film';
import { cardPlaceOf } from '@under-chalk/core/lesson/title-card';
import { speechIn } from '@under-chalk/core/sound/phrases';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { speechOfFilm } from '@under-chalk/core/words/roughly';
import { levelsQuery } from '../../data/queries';

/** Where somebody speaks in a film, in its own times; all of it while that isn't known. */
export const useSpeech = (film: Film): readonly TimeRange[] => {
  const ids = [
    ...new Set(film.spans.filter(({ take }) => !cardPlaceOf(take)).map(({ take }) => take.id)),
  ];
  const lines = useQueries({
    queries: ids.map(levelsQuery),
    combine: (results) => results.map(({ data }) => data ?? null),
  });
  return useMemo(() => {
    const found = new Map(ids.map((id, at) => [id, lines[at] ? speechIn(lines[at]) : []]));
    return speechOfFilm(film, (takeId) => found.get(takeId) ?? []);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `ids` follow from the film
  }, [film, lines]);
};
