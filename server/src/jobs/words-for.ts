import {
  filmWordsSchema,
  type FilmStore,
  type FilmWords,
  type StoredFilm,
} from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import { readJson } from '../store/read-json';
import { wordsOf } from './film-maker';

interface Parts {
  readonly films: FilmStore;
  readonly lessons: LessonStore;
}

/** What stands beside a film. Where it was never kept, or can't be read, it is found once; else no edit is ever replayed here. */
export const wordsFor = async ({ films, lessons }: Parts, film: StoredFilm): Promise<FilmWords> => {
  const kept = film.words === null ? null : readJson(filmWordsSchema, film.words);
  if (kept) return kept;
  const words = wordsOf(await lessons.lessonAt(film.lesson_id, film.revision));
  await films.keepWords(film.id, words);
  return words;
};
