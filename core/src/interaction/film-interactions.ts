import type { Film } from '../film/film';
import { inFilm } from '../film/in-film';
import type { FilmInteraction } from './interaction';

/** The interactions of a film, in its order, with all that its teacher knows of them. Of a take that stands twice, what is asked is asked once. */
export const filmInteractionsOf = (film: Film): FilmInteraction[] => {
  const seen = new Set<string>();
  return inFilm(film, film.lesson.decisions.interactions).flatMap(
    ({ of: { id, text, does }, filmUs }) => {
      if (seen.has(id)) return [];
      seen.add(id);
      return [{ id, filmUs, text, does }];
    },
  );
};
