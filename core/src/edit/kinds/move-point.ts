import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { pointsSlice } from '../slices/points';

/** Moves a point in the running order. */
export const movePoint = kindOf({
  schema: z.object({
    do: z.literal('move-point'),
    pointId: idSchema,
    rank: z.number().finite(),
  }),
  slice: pointsSlice,
  apply: (before, { pointId, rank }) =>
    before.map((point) => (point.id === pointId ? { ...point, rank } : point)),
  touches: ({ pointId, rank }) => [{ slot: `rank ${pointId}`, value: rank }],
  isUndoable: never,
  inWords: () => 'moved a point',
});
