import * as z from 'zod';
import { frameShapeSchema } from '../../lesson/layout';
import { always, kindOf } from '../kind';
import { frameSlice } from '../slices/frame';

/** Sets the shape of the output picture. */
export const shapeFrame = kindOf({
  schema: z.object({ do: z.literal('shape-frame'), shape: frameShapeSchema }),
  slice: frameSlice,
  apply: (before, { shape }) => ({ ...before, shape }),
  touches: ({ shape }) => [{ slot: 'frame', value: shape }],
  isUndoable: always,
  inWords: ({ shape }) => `made the frame ${shape}`,
});
