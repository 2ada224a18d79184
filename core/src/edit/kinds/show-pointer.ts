import * as z from 'zod';
import { pointerLookSchema } from '../../pointer/look';
import { always, kindOf } from '../kind';
import { pointerSlice } from '../slices/pointer';

/** Says how what is pointed at is drawn. */
export const showPointer = kindOf({
  schema: z.object({ do: z.literal('show-pointer'), look: pointerLookSchema }),
  slice: pointerSlice,
  apply: (_before, { look }) => look,
  touches: ({ look }) => [{ slot: 'pointer', value: look }],
  isUndoable: always,
  inWords: ({ look }) =>
    look.mark === 'none' ? 'hid the pointer' : 'changed how the pointer looks',
});
