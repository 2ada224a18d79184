import type { ReadSource, Shown } from './source';
import { bordersOf, stretchAt } from './stretches';

const NOTHING: Shown = { layers: [], moving: false };

/** Lines of words that lie over what is shown. */
export const textOverlaySource: ReadSource = (film) => {
  const { textOverlays } = film.lesson.decisions;
  return {
    get borders() {
      return bordersOf(film, textOverlays);
    },
    at(filmFrame, span) {
      const found = stretchAt(textOverlays, span, filmFrame);
      return found
        ? { layers: [{ kind: 'text-overlay', ...found.textOverlay }], moving: false }
        : NOTHING;
    },
  };
};
