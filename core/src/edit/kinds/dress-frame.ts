import * as z from 'zod';
import { frameDressSchema } from '../../lesson/frame';
import { always, kindOf } from '../kind';
import { frameSlice } from '../slices/frame';

/** Says what lies behind the pictures, and how much room there is round them. */
export const dressFrame = kindOf({
  schema: z.object({ do: z.literal('dress-frame'), dress: frameDressSchema }),
  slice: frameSlice,
  apply: (before, { dress }) => ({ ...before, ...dress }),
  touches: ({ dress }) => [{ slot: 'frame dress', value: dress }],
  isUndoable: always,
  inWords: () => 'changed what is round the picture',
});
