import type { Class } from '@under-chalk/core/class/class';
import { followed, hasOtherNames } from '@under-chalk/core/class/renamed';
import type { Parts } from '../http/context';

/**
 * Lessons, and what is kept for a class, stay with it and its units when those are to have other names. It is done before they have: what is
 * broken off in the middle is done by saying so once more.
 *
 * @throws AppError `class-name-taken`, and nothing has changed
 */
export const followNames = async (parts: Parts, before: Class, after: Class): Promise<void> => {
  const { classes, classMaterials, lessons, log } = parts;
  await classes.checkName(after);
  if (!hasOtherNames(before, after)) return;
  const rows = await lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error));
  for (const { id, className, unit } of rows) {
    const now = followed({ className, unit }, before, after);
    if (now) await lessons.move(id, now.className, now.unit);
  }
  if (after.name !== before.name) await classMaterials.follow(before.name, after.name);
};
