import * as z from 'zod';
import { always, kindOf } from '../kind';
import { duckingDbSlice } from '../slices/ducking-db';

/** Sets by how much what the computer plays is lowered while somebody speaks over it, dB; 0: not at all. */
export const setDucking = kindOf({
  schema: z.object({ do: z.literal('set-ducking'), db: z.number().int().min(0).max(40) }),
  slice: duckingDbSlice,
  apply: (_before, { db }) => db,
  touches: ({ db }) => [{ slot: 'under voice', value: db }],
  isUndoable: always,
  inWords: ({ db }) =>
    db === 0
      ? 'left the computer’s sound as loud under a voice'
      : 'lowered the computer’s sound under a voice',
});
