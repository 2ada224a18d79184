import { cardPlaceOf } from '../../lesson/title-card';
import { isSeen } from '../../lesson/medium';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

/** The lesson's title where there is no picture at all: in a film of sound alone. */
export const titleSource: ReadSource = (film) => {
  const text = film.lesson.decisions.plan.title;
  const titled: Shown = { layers: [{ kind: 'words', text }], moving: false };
  return {
    borders: [],
    at: (_frame, { take }) => (isSeen(take) || cardPlaceOf(take) ? NOTHING : titled),
  };
};
