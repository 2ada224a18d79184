import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { excludedSlice } from '../slices/excluded';

/** Brings what was left out back to its place in the film, as it was trimmed. */
export const includeTake = kindOf({
  schema: z.object({ do: z.literal('include-take'), placementId: idSchema }),
  slice: excludedSlice,
  apply: (before, { placementId }) => before.filter((id) => id !== placementId),
  touches: ({ placementId }) => [{ slot: `in ${placementId}`, value: true }],
  isUndoable: always,
  inWords: () => 'put a take in again',
});
