import * as z from 'zod';
import { pointSchema } from '../../plan/point';
import { kindOf, never } from '../kind';

/** Puts a point into the running order, or changes it. */
export const setPoint = kindOf({
  schema: z.object({ do: z.literal('set-point'), point: pointSchema }),
  slice: 'points',
  apply: (before, { point }) => [...before.filter(({ id }) => id !== point.id), point],
  touches: ({ point: { id, rank, ...words } }) => [
    { slot: `point ${id}`, value: words },
    { slot: `rank ${id}`, value: rank },
  ],
  isUndoable: never,
  inWords: () => 'wrote a point',
});
