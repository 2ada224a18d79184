import * as z from 'zod';
import { always, kindOf } from '../kind';
import { levelledSlice } from '../slices/levelled';

/** Has voices brought to one level, or leaves them as they were recorded. */
export const levelSound = kindOf({
  schema: z.object({ do: z.literal('level-sound'), levelled: z.boolean() }),
  slice: levelledSlice,
  apply: (_before, { levelled }) => levelled,
  touches: ({ levelled }) => [{ slot: 'levelled', value: levelled }],
  isUndoable: always,
  inWords: ({ levelled }) =>
    levelled ? 'brought voices to one level' : 'left voices as they were recorded',
});
