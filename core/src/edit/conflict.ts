import { overlaps } from '../time/ranges';
import type { Id } from '../lesson/take';
import type { Entry } from './edit';

/** The point an edit is about; null when it is about something else. */
const pointOf = (edit: Entry): Id | null => {
  if (edit.do === 'set-point') return edit.point.id;
  return 'pointId' in edit ? edit.pointId : null;
};
const isTick = (edit: Entry) => edit.do === 'tick-point' || edit.do === 'untick-point';

/**
 * Whether two edits decide the same thing, so that the later one would silently overwrite the
 * earlier. Edits of different things can be made in either order and both stand: they are anchored
 * to recorded time. An undo or redo steps on everything: what it takes back depends on what came last.
 */
export const conflict = (a: Entry, b: Entry): boolean => {
  if (a.do === 'undo' || a.do === 'redo' || b.do === 'undo' || b.do === 'redo') return true;
  if (a.do === 'plan' && b.do === 'plan') {
    return (Object.keys(a.set) as (keyof typeof a.set)[]).some(
      (field) => b.set[field] !== undefined && b.set[field] !== a.set[field],
    );
  }
  if ((a.do === 'soften' || a.do === 'shape-frame') && a.do === b.do) {
    return JSON.stringify(a) !== JSON.stringify(b);
  }
  const point = [pointOf(a), pointOf(b)];
  if (point[0] !== null || point[1] !== null) {
    if (point[0] !== point[1]) return false;
    // A tick says when a point was covered, which no change of its words decides.
    if (isTick(a) !== isTick(b)) return false;
    return JSON.stringify(a) !== JSON.stringify(b);
  }
  if (!('takeId' in a) || !('takeId' in b) || a.takeId !== b.takeId) return false;
  if (a.do === 'trim' && b.do === 'trim') {
    return a.startUs !== b.startUs || a.endUs !== b.endUs;
  }
  if (a.do === 'crop' && b.do === 'crop') return JSON.stringify(a) !== JSON.stringify(b);
  const flub = ['mark-flub', 'unmark-flub'];
  if (flub.includes(a.do) && flub.includes(b.do)) {
    return a.do !== b.do && 'atUs' in a && 'atUs' in b && a.atUs === b.atUs;
  }
  const order = ['place-take', 'leave-out-take'];
  if (order.includes(a.do) && order.includes(b.do)) return a.do !== b.do;
  const timed = (edit: Entry) =>
    edit.do === 'cut' || edit.do === 'restore' || edit.do === 'arrange';
  if (timed(a) && timed(b)) {
    const sameThing = (a.do === 'arrange') === (b.do === 'arrange');
    const sameValue = a.do === b.do && a.do !== 'arrange';
    return sameThing && !sameValue && overlaps(a as never, b as never);
  }
  return false;
};
