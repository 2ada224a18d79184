import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { ticksSlice } from '../slices/ticks';

/** Ticks a point off; again: at the later moment instead. */
export const tickPoint = kindOf({
  schema: z.object({
    do: z.literal('tick-point'),
    pointId: idSchema,
    takeId: idSchema,
    atUs: usSchema,
  }),
  slice: ticksSlice,
  apply: (before, { pointId, takeId, atUs }) => [
    ...before.filter((tick) => tick.pointId !== pointId),
    { pointId, takeId, atUs },
  ],
  touches: ({ pointId, takeId, atUs }) => [{ slot: `tick ${pointId}`, value: [takeId, atUs] }],
  isUndoable: never,
  inWords: () => 'ticked a point off',
});
