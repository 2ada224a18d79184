import * as z from 'zod';
import { always, kindOf } from '../kind';
import { crossFadeUsSlice } from '../slices/cross-fade-us';

/** Sets how long one picture goes over into the other where something was cut, 0 to 1 s. */
export const setCrossFade = kindOf({
  schema: z.object({
    do: z.literal('set-cross-fade'),
    crossFadeUs: z.number().int().min(0).max(1_000_000),
  }),
  slice: crossFadeUsSlice,
  apply: (_before, { crossFadeUs }) => crossFadeUs,
  touches: ({ crossFadeUs }) => [{ slot: 'crossFade', value: crossFadeUs }],
  isUndoable: always,
  inWords: ({ crossFadeUs }) => (crossFadeUs === 0 ? 'made cuts hard' : 'made cuts soft'),
});
