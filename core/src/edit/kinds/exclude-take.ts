import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { excludedSlice } from '../slices/excluded';

/** Leaves out of the film what stands at a place. Its rank and its trim stay. */
export const excludeTake = kindOf({
  schema: z.object({ do: z.literal('exclude-take'), placementId: idSchema }),
  slice: excludedSlice,
  apply: (before, { placementId }) => [...before.filter((id) => id !== placementId), placementId],
  touches: ({ placementId }) => [{ slot: `in ${placementId}`, value: false }],
  isUndoable: always,
  inWords: () => 'left a take out',
});
