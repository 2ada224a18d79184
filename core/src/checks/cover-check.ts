import type { Film } from '../film/film';
import { chosenTime } from '../scene/cover-scene';
import { timeOfCover } from '../lesson/cover';
import type { Check } from './check';

/** What is known of the cover that a film has now; null: it isn't known yet. */
export type CoverLooks = { readonly isBlank: boolean } | null;

/** What students see before the film plays. */
export const coverCheck = (film: Film, looks: CoverLooks): Check[] => {
  if (film.frames === 0) return [];
  const { cover } = film.lesson.decisions;
  const mend = { words: 'Choose the cover', opens: 'cover' } as const;
  if (timeOfCover(cover) && chosenTime(film, cover) === null) {
    const sentence =
      'The moment that its cover showed isn’t in the film any more; another stands for it.';
    return [{ id: 'cover', verdict: 'look', sentence, mend }];
  }
  if (looks?.isBlank) {
    const sentence = 'Its cover shows as good as nothing.';
    return [{ id: 'cover', verdict: 'look', sentence, mend }];
  }
  const sentence =
    cover.of === null ? 'Its cover was found in the film.' : 'Its cover is the one that you chose.';
  return [{ id: 'cover', verdict: 'good', sentence, mend }];
};
