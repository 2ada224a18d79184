import {
  filmWordsSchema,
  type FilmStore,
  type FilmWords,
  type StoredFilm,
} from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import { wordsOf } from './film-maker';

interface Parts {
  readonly films: FilmStore;
  readonly lessons: LessonStore;
}

/** What stands beside a film. Of a film from before words were kept with it, they are found once; else no edit is ever replayed here. */
export const wordsFor = async ({ films, lessons }: Parts, film: StoredFilm): Promise<FilmWords> => {
  if (film.words !== null) return filmWordsSchema.parse(JSON.parse(film.words));
  const words = wordsOf(await lessons.lessonAt(film.lesson_id, film.revision));
  await films.keepWords(film.id, words);
  return words;
};
