import * as z from 'zod';
import { frameShapeSchema } from '../../lesson/layout';
import { always, kindOf } from '../kind';
import { frameSlice } from '../slices/frame';

/** Sets the shape of the output picture. */
export const setFrameShape = kindOf({
  schema: z.object({ do: z.literal('set-frame-shape'), shape: frameShapeSchema }),
  slice: frameSlice,
  apply: (before, { shape }) => ({ ...before, shape }),
  touches: ({ shape }) => [{ slot: 'frame', value: shape }],
  isUndoable: always,
  inWords: ({ shape }) => `made the frame ${shape}`,
});
