import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import {
  filmTimeFrom,
  recordedAt,
  type Film,
  type RecordedPlace,
} from '@under-chalk/core/film/film';
import { FilmPlayer, type PlayerView } from './film-player';

/** A player of a film that may change under it: after an edit it stands where it stood in recorded time. */
export const useFilmPlayer = (film: Film): { player: FilmPlayer; view: PlayerView } => {
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
  return { player, view: useSyncExternalStore(player.subscribe, player.view, player.view) };
};
