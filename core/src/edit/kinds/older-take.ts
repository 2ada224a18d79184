import * as z from 'zod';
import { placementSchema } from '../../lesson/placement';
import { idSchema, type Id } from '../../lesson/take';

/** What older forms, which named takes and no places, need to know of the decisions of then. */
const beforeSchema = z.object({
  placements: z.array(placementSchema),
  leftOut: z.array(idSchema),
});

/**
 * The place in the film that an older form meant by naming a take: the one at which it stood.
 *
 * @param before the decisions as they stood then
 * @returns null where it stood nowhere
 */
export const placeMeant = (takeId: unknown, before: unknown): Id | null => {
  const { placements, leftOut } = beforeSchema.parse(before);
  const places = placements.filter((placement) => placement.takeId === takeId);
  return places.find(({ id }) => !leftOut.includes(id))?.id ?? null;
};

export const leftOutBefore = (before: unknown): ReadonlySet<Id> =>
  new Set(beforeSchema.parse(before).leftOut);

/** All places, in the film or left out. */
export const placesBefore = (before: unknown) => beforeSchema.parse(before).placements;
