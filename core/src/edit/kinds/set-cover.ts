import * as z from 'zod';
import { coverSchema, isFound } from '../../lesson/cover';
import { always, kindOf } from '../kind';
import { coverSlice } from '../slices/cover';

/** Decides which still picture the film is known by. */
export const setCover = kindOf({
  schema: z.object({ do: z.literal('set-cover'), cover: coverSchema }),
  slice: coverSlice,
  apply: (_before, { cover }) => cover,
  touches: ({ cover }) => [{ slot: 'cover', value: cover }],
  isUndoable: always,
  inWords: ({ cover }) => (isFound(cover) ? 'left the cover to be found' : 'chose the cover'),
});
