import * as z from 'zod';
import { always, kindOf } from '../kind';
import { layoutTransitionUsSlice } from '../slices/layout-transition-us';

/** Sets the length of the soft change between layouts, 0 to 2 s. */
export const setLayoutTransition = kindOf({
  schema: z.object({
    do: z.literal('set-layout-transition'),
    layoutTransitionUs: z.number().int().min(0).max(2_000_000),
  }),
  slice: layoutTransitionUsSlice,
  apply: (_before, { layoutTransitionUs }) => layoutTransitionUs,
  touches: ({ layoutTransitionUs }) => [{ slot: 'change', value: layoutTransitionUs }],
  isUndoable: always,
  inWords: ({ layoutTransitionUs }) =>
    layoutTransitionUs === 0 ? 'made changes hard' : 'made changes soft',
});
