import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { pointsSlice } from '../slices/points';

/** Takes a point out of the running order. */
export const removePoint = kindOf({
  schema: z.object({ do: z.literal('remove-point'), pointId: idSchema }),
  slice: pointsSlice,
  apply: (before, { pointId }) => before.filter(({ id }) => id !== pointId),
  touches: ({ pointId }) => [
    { slot: `point ${pointId}`, value: null },
    { slot: `rank ${pointId}`, value: null },
  ],
  isUndoable: never,
  inWords: () => 'removed a point',
});
