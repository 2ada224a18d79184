import * as z from 'zod';
import { always, kindOf } from '../kind';
import { dissolveUsSlice } from '../slices/dissolve-us';

/** Sets how long one picture goes over into the other where something was cut, 0 to 1 s. */
export const dissolve = kindOf({
  schema: z.object({
    do: z.literal('dissolve'),
    dissolveUs: z.number().int().min(0).max(1_000_000),
  }),
  slice: dissolveUsSlice,
  apply: (_before, { dissolveUs }) => dissolveUs,
  touches: ({ dissolveUs }) => [{ slot: 'dissolve', value: dissolveUs }],
  isUndoable: always,
  inWords: ({ dissolveUs }) => (dissolveUs === 0 ? 'made cuts hard' : 'made cuts soft'),
});
