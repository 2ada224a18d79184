import * as z from 'zod';
import { captionLookSchema } from '../../words/caption-look';
import { always, kindOf } from '../kind';
import { captionLookSlice } from '../slices/caption-look';

/** Decides whether captions are part of the picture, and how they stand in it. */
export const showCaptions = kindOf({
  schema: z.object({ do: z.literal('show-captions'), look: captionLookSchema }),
  slice: captionLookSlice,
  apply: (_, { look }) => look,
  touches: ({ look }) => [{ slot: 'caption look', value: look }],
  isUndoable: always,
  inWords: ({ look }) =>
    look.burntIn ? 'put the captions into the picture' : 'left captions to whoever watches',
});
