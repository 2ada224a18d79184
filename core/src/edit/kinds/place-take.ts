import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf } from '../kind';

/** Puts a take into the film, or moves it there. */
export const placeTake = kindOf({
  schema: z.object({
    do: z.literal('place-take'),
    takeId: idSchema,
    /** Place in the film from 0; null: at the end. A take that is in already moves. */
    at: z.number().int().min(0).nullable(),
  }),
  slice: 'placed',
  apply(before, { takeId, at: wanted }) {
    const present = before.find((placed) => placed.takeId === takeId);
    const others = before.filter((placed) => placed.takeId !== takeId);
    const at = Math.min(wanted ?? others.length, others.length);
    const placed = present ?? { takeId, startUs: 0, endUs: null };
    return [...others.slice(0, at), placed, ...others.slice(at)];
  },
  touches: ({ takeId }) => [{ slot: `in ${takeId}`, value: true }],
  // Where a take arrives nobody has moved it.
  isUndoable: ({ at }) => at !== null,
  inWords: ({ at }) => (at === null ? 'put a take into the film' : `moved a take to ${at + 1}`),
});
