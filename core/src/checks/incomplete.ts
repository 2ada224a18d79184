import { errorText } from '../errors/errors';
import type { Film } from '../film/film';
import { canProcessAgain, isIncomplete } from '../lesson/incomplete-take';
import { takeNameOf } from '../lesson/take-names';
import { frameToUs } from '../time/frames';
import { takesHeard } from '../sound/heard';
import type { Check } from './check';

/** Takes of the film of which a part is missing, each with a way to process it again. */
export const incompleteChecks = (film: Film): Check[] =>
  [...takesHeard(film)].filter(isIncomplete).map((take): Check => {
    const first = film.spans.find((span) => span.take.id === take.id);
    return {
      id: 'incomplete',
      verdict: 'stop',
      sentence: `A part of ${takeNameOf(film.lesson, take.id).toLocaleLowerCase()} is missing. ${errorText(take.problem!).message}`,
      ...(first ? { atUs: frameToUs(first.filmFrame) } : {}),
      ...(canProcessAgain(take)
        ? { mend: { words: 'Process again', processTakeId: take.id } as const }
        : {}),
    };
  });
