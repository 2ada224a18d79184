import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { unlevelledSlice } from '../slices/unlevelled';

/** Has a take's sound brought to the level of all, or leaves it as loud as it was recorded. */
export const setLevelling = kindOf({
  schema: z.object({ do: z.literal('set-levelling'), takeId: idSchema, levelled: z.boolean() }),
  slice: unlevelledSlice,
  apply: (before, { takeId, levelled }) => [
    ...before.filter((id) => id !== takeId),
    ...(levelled ? [] : [takeId]),
  ],
  touches: ({ takeId, levelled }) => [{ slot: `level ${takeId}`, value: levelled }],
  isUndoable: always,
  inWords: ({ levelled }) =>
    levelled
      ? 'brought a take’s sound to the level of all'
      : 'left a take as loud as it was recorded',
});
