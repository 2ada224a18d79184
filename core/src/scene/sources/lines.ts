import type { ReadSource, Shown } from './source';
import { bordersOf, stretchAt } from './stretches';

const NOTHING: Shown = { layers: [], moving: false };

/** Lines of words that lie over what is shown. */
export const lineSource: ReadSource = (film) => {
  const { lines } = film.lesson.decisions;
  return {
    get borders() {
      return bordersOf(film, lines);
    },
    at(filmFrame, span) {
      const found = stretchAt(lines, span, filmFrame);
      return found ? { layers: [{ kind: 'line', ...found.line }], moving: false } : NOTHING;
    },
  };
};
