import * as z from 'zod';
import { arrangementSchema } from '../../lesson/arrangement';
import { always, kindOf } from '../kind';
import { restingSlice } from '../slices/resting';

/** Sets how surface and camera share the picture wherever nothing else is decided. */
export const rest = kindOf({
  schema: z.object({ do: z.literal('rest'), arrangement: arrangementSchema }),
  slice: restingSlice,
  apply: (_before, { arrangement }) => arrangement,
  touches: ({ arrangement }) => [{ slot: 'resting', value: arrangement }],
  isUndoable: always,
  inWords: () => 'arranged all the rest',
});
