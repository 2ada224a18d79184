import type { Film } from '../film/film';
import { toldLicence } from '../lesson/licence';
import type { Check } from './check';

/** What students and others are told that they may do with it. Saying nothing is no mistake: then nobody else may do anything. */
export const licenceCheck = (film: Film): Check[] => {
  if (film.frames === 0) return [];
  const { licence } = film.lesson.decisions;
  const sentence = licence
    ? `What others may do with it: ${toldLicence(licence).line}.`
    : 'Nothing is said of what others may do with it: they may watch it.';
  return [
    { id: 'licence', verdict: 'good', sentence, mend: { words: 'Say it', opens: 'licence' } },
  ];
};
