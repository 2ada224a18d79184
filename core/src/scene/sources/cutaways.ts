import { aspectOf } from '../../lesson/arrangement';
import { containedIn, WHOLE } from '../geometry';
import { groundOf } from './ground';
import type { ReadSource, Shown } from './source';
import { bordersOf, stretchAt } from './stretches';

const NOTHING: Shown = { layers: [], moving: false };

/** Pages that are shown in place of what was recorded, while the sound goes on. */
export const cutawaySource: ReadSource = (film) => {
  const { cutaways, frame } = film.lesson.decisions;
  return {
    borders: bordersOf(film, cutaways),
    at(filmFrame, span) {
      const found = stretchAt(cutaways, span, filmFrame);
      if (!found) return NOTHING;
      const { of } = found;
      const to = containedIn(WHOLE, of.aspect, aspectOf(frame.shape));
      return {
        layers: [
          ...groundOf(frame),
          { kind: 'page', of, from: WHOLE, to, opacity: 1, clear: false },
        ],
        moving: false,
        covers: true,
      };
    },
  };
};
