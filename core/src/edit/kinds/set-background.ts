import * as z from 'zod';
import { backgroundSchema } from '../../lesson/frame';
import { always, kindOf } from '../kind';
import { frameSlice } from '../slices/frame';

/** Says what lies behind the pictures, and how much room there is round them. */
export const setBackground = kindOf({
  schema: z.object({ do: z.literal('set-background'), background: backgroundSchema }),
  slice: frameSlice,
  apply: (before, { background }) => ({ ...before, ...background }),
  touches: ({ background }) => [{ slot: 'frame background', value: background }],
  isUndoable: always,
  inWords: () => 'changed what is round the picture',
});
