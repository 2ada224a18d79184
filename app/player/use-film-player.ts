import { useEffect, useRef, useState } from 'react';
import {
  filmTimeFrom,
  recordedAt,
  type Film,
  type RecordedPlace,
} from '@under-chalk/core/film/film';
import { FilmPlayer } from './film-player';

/**
 * A player of a film that may change under it: after an edit it stands where it stood in recorded time. It
 * changes with every picture; whoever shows a part of it watches that part (`usePart`).
 */
export const useFilmPlayer = (film: Film): FilmPlayer => {
  const [player] = useState(() => new FilmPlayer(film));
  const shown = useRef(film);
  useEffect(() => {
    if (shown.current === film) return;
    const { filmUs } = player.view();
    const place: RecordedPlace | null = recordedAt(shown.current, filmUs);
    shown.current = film;
    player.setFilm(film, place ? filmTimeFrom(film, place) : filmUs);
  }, [film, player]);
  useEffect(() => () => player.close(), [player]);
  return player;
};
