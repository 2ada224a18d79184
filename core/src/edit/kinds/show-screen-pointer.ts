import * as z from 'zod';
import { isLeftAlone, pointerLookSchema } from '../../pointer/look';
import { always, kindOf } from '../kind';
import { screenPointerSlice } from '../slices/screen-pointer';

/** Says what is drawn round the pointer in captured screens, where it was found. */
export const showScreenPointer = kindOf({
  schema: z.object({ do: z.literal('show-screen-pointer'), look: pointerLookSchema }),
  slice: screenPointerSlice,
  apply: (_before, { look }) => look,
  touches: ({ look }) => [{ slot: 'screen-pointer', value: look }],
  isUndoable: always,
  inWords: ({ look }) =>
    isLeftAlone(look)
      ? 'left the pointer on the screen as it is'
      : 'changed what is drawn round the pointer',
});
