import * as z from 'zod';
import { closeUpSchema } from '../../lesson/close-up';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { closeUpsSlice } from '../slices/close-ups';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Shows a part of the surface closer for a stretch; null: all of it again. */
export const setCloseUp = kindOf({
  schema: z
    .object({ do: z.literal('set-close-up'), ...ENDS, closeUp: closeUpSchema.nullable() })
    .refine(runsForward, FORWARD),
  slice: closeUpsSlice,
  apply: (before, { closeUp, ...stretch }) => layOrClear(before, stretch, closeUp && { closeUp }),
  touches: ({ takeId, startUs, endUs, closeUp }) => [
    { slot: `closer ${takeId}`, range: { startUs, endUs }, value: closeUp },
  ],
  isUndoable: always,
  inWords: (edit) => `${edit.closeUp ? 'came closer for' : 'stayed back for'} ${STRETCH}`,
});
