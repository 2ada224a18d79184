import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';

/** Leaves a take out of the film. */
export const leaveOutTake = kindOf({
  schema: z.object({ do: z.literal('leave-out-take'), takeId: idSchema }),
  slice: 'placed',
  apply: (before, { takeId }) => before.filter((placed) => placed.takeId !== takeId),
  touches: ({ takeId }) => [{ slot: `in ${takeId}`, value: false }],
  isUndoable: always,
  inWords: () => 'left a take out',
});
