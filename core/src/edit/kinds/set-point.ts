import * as z from 'zod';
import { pointSchema } from '../../plan/point';
import { kindOf, never } from '../kind';
import { pointsSlice } from '../slices/points';

/** Puts a point into the running order, or changes it. */
export const setPoint = kindOf({
  schema: z.object({ do: z.literal('set-point'), point: pointSchema }),
  slice: pointsSlice,
  apply: (before, { point }) => [...before.filter(({ id }) => id !== point.id), point],
  touches: ({ point: { id, rank, ...words } }) => [
    { slot: `point ${id}`, value: words },
    { slot: `rank ${id}`, value: rank },
  ],
  isUndoable: never,
  inWords: () => 'wrote a point',
});
