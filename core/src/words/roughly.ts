import type { Film } from '../film/film';
import { filmIn } from '../film/span';
import { frameToUs } from '../time/frames';
import { intersect, lengthOf, merge, totalOf, type TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { signsIn, wordsIn, type Cue, type WordTime } from './cue';
import { cuesOfFilmText } from './film-placing';
import { piecesOf } from './pieces';

/** Where somebody speaks in a film; all of what was recorded in it where nobody is found to. */
export const speechOfFilm = (
  film: Film,
  speechOf: (takeId: string) => readonly TimeRange[],
): TimeRange[] => {
  const takes = new Set(film.lesson.takes.map(({ id }) => id));
  const own = film.spans.filter(({ take }) => takes.has(take.id));
  const stretches = (of: (takeId: string, kept: TimeRange) => readonly TimeRange[]) =>
    merge(
      own.flatMap((span) => {
        const kept = { startUs: frameToUs(span.startFrame), endUs: frameToUs(span.endFrame) };
        return of(span.take.id, kept).map(({ startUs, endUs }) => ({
          startUs: filmIn(span, startUs),
          endUs: filmIn(span, endUs),
        }));
      }),
    );
  const spoken = stretches((takeId, kept) => intersect(speechOf(takeId), [kept]));
  return spoken.length > 0 ? spoken : stretches((_, kept) => [kept]);
};

/**
 * Cues for a text that is said in a film, one after another where somebody speaks, each for as long as its signs are of all: a
 * first guess, to be put in time with the voice or by hand.
 */
export const roughCues = (
  film: Film,
  text: string,
  language: string,
  speech: readonly TimeRange[],
  newId: () => string,
): Cue[] => {
  const pieces = piecesOf(text, language);
  const all = pieces.reduce((sum, piece) => sum + signsIn(piece) + 1, 0);
  const spokenUs = totalOf(speech);
  if (all === 0 || spokenUs === 0) return [];
  /** Time of the film after a time of speaking; at the end of a stretch, or at the beginning of the next. */
  const filmAt = (spoken: Us, begins: boolean): Us => {
    let before = 0;
    for (const range of speech) {
      const lasts = lengthOf(range);
      if (spoken < before + lasts || (!begins && spoken === before + lasts)) {
        return Math.round(range.startUs + spoken - before);
      }
      before += lasts;
    }
    return speech.at(-1)!.endUs;
  };
  let signs = 0;
  return pieces.flatMap((piece) => {
    const times = wordsIn(piece).map((word): WordTime => {
      const from = signs;
      signs += signsIn(word) + 1;
      const [startUs, endUs] = [from, signs].map((at) => (at / all) * spokenUs) as [Us, Us];
      return [filmAt(startUs, true), filmAt(endUs, false), 0];
    });
    const [startUs, endUs] = [times[0]![0], times.at(-1)![1]];
    return cuesOfFilmText(
      film,
      { text: piece, startUs, endUs },
      { timed: 'roughly', newId },
      times,
    );
  });
};
