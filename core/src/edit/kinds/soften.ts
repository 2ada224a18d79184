import * as z from 'zod';
import { always, kindOf } from '../kind';
import { changeUsSlice } from '../slices/change-us';

/** Sets the length of the soft change between layouts, 0 to 2 s. */
export const soften = kindOf({
  schema: z.object({
    do: z.literal('soften'),
    changeUs: z.number().int().min(0).max(2_000_000),
  }),
  slice: changeUsSlice,
  apply: (_before, { changeUs }) => changeUs,
  touches: ({ changeUs }) => [{ slot: 'change', value: changeUs }],
  isUndoable: always,
  inWords: ({ changeUs }) => (changeUs === 0 ? 'made changes hard' : 'made changes soft'),
});
