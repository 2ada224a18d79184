import * as z from 'zod';
import { frameShapeSchema } from '../../lesson/arrangement';
import { always, kindOf } from '../kind';

/** Sets the shape of the output picture. */
export const shapeFrame = kindOf({
  schema: z.object({ do: z.literal('shape-frame'), shape: frameShapeSchema }),
  slice: 'frame',
  apply: (_before, { shape }) => ({ shape }),
  touches: ({ shape }) => [{ slot: 'frame', value: shape }],
  isUndoable: always,
  inWords: ({ shape }) => `made the frame ${shape}`,
});
