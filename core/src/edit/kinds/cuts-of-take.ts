import type { Stretch } from '../../lesson/lesson';
import type { Id } from '../../lesson/take';
import type { TimeRange } from '../../time/ranges';

/** Cuts of one take replaced by the result of `change` on them; other takes' cuts untouched. */
export const withCuts = (
  all: readonly Stretch[],
  takeId: Id,
  change: (cuts: readonly Stretch[]) => readonly TimeRange[],
): readonly Stretch[] => {
  const others = all.filter((cut) => cut.takeId !== takeId);
  const own = all.filter((cut) => cut.takeId === takeId);
  return [...others, ...change(own).map((cut) => ({ takeId, ...cut }))];
};
