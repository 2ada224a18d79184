import { overlaps } from '../time/ranges';
import { touchesOf, type Act } from './edit';
import type { Touch } from './kind';

const meet = (a: Touch, b: Touch): boolean =>
  a.slot === b.slot &&
  (a.range === undefined || b.range === undefined || overlaps(a.range, b.range)) &&
  JSON.stringify(a.value) !== JSON.stringify(b.value);

/**
 * Whether an act decides the same thing differently as any of some others, so that one of them would silently
 * overwrite the other. All that don't can be made in either order and stand: edits are anchored to recorded
 * time, and an undo names what it takes back.
 *
 * @returns asks it of an act; the others are looked at once, and each act only meets those of its own slots
 */
export const conflictWith = (others: readonly Act[]): ((act: Act) => boolean) => {
  const bySlot = new Map<string, Touch[]>();
  for (const touch of others.flatMap(touchesOf)) {
    const there = bySlot.get(touch.slot);
    if (there) there.push(touch);
    else bySlot.set(touch.slot, [touch]);
  }
  return (act) =>
    touchesOf(act).some((touch) => bySlot.get(touch.slot)?.some((other) => meet(touch, other)));
};
