import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { formatClock } from '../../time/us';
import { kindOf, never } from '../kind';
import { flubsSlice } from '../slices/flubs';

/** Marks a mistake at the moment it was noticed. */
export const markFlub = kindOf({
  schema: z.object({ do: z.literal('mark-flub'), takeId: idSchema, atUs: usSchema }),
  slice: flubsSlice,
  apply: (before, { takeId, atUs }) => [
    ...before.filter((flub) => flub.takeId !== takeId || flub.atUs !== atUs),
    { takeId, atUs },
  ],
  touches: ({ takeId, atUs }) => [{ slot: `flub ${takeId} ${atUs}`, value: true }],
  isUndoable: never,
  inWords: ({ atUs }) => `marked a flub at ${formatClock(atUs)}`,
});
