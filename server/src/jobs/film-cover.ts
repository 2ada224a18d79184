import type { LessonStore } from '../store/lesson-store';
import type { StoredFilm } from '../store/film-store';
import type { MediaStore } from '../store/media-store';
import type { Covers } from './covers';

interface Parts {
  readonly covers: Covers;
  readonly lessons: LessonStore;
  readonly media: MediaStore;
}

/**
 * The cover of a film that is handed out, whether it has been made or not. Where its footage is gone and the film alone was kept,
 * the film has its cover in it.
 *
 * @returns its path
 * @throws AppError where there is neither footage nor film
 */
export const coverOf = async (
  { covers, lessons, media }: Parts,
  { id, manifest_id, lesson_id, revision, state }: StoredFilm,
): Promise<string> => {
  const film = manifest_id || id;
  try {
    return await covers.ofFilm(film, () => lessons.lessonAt(lesson_id, revision));
  } catch (error) {
    if (state !== 'done') throw error;
    return covers.outOf(film, media.film(id));
  }
};
