import { overlaps } from '../time/ranges';
import { kindOfEdit, type Entry } from './edit';
import type { Touch } from './kind';

const meet = (a: Touch, b: Touch): boolean =>
  a.slot === b.slot &&
  (a.range === undefined || b.range === undefined || overlaps(a.range, b.range)) &&
  JSON.stringify(a.value) !== JSON.stringify(b.value);

/**
 * Whether two edits decide the same thing differently, so that the later one would silently overwrite the
 * earlier. All others can be made in either order and both stand: they are anchored to recorded time. An
 * undo or redo steps on everything: what it takes back depends on what came last.
 */
export const conflict = (a: Entry, b: Entry): boolean => {
  if (a.do === 'undo' || a.do === 'redo' || b.do === 'undo' || b.do === 'redo') return true;
  const theirs = kindOfEdit(b).touches(b);
  return kindOfEdit(a)
    .touches(a)
    .some((touch) => theirs.some((other) => meet(touch, other)));
};
