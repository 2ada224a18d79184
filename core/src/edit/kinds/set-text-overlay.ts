import * as z from 'zod';
import { textOverlaySchema } from '../../lesson/text-overlay';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { textOverlaysSlice } from '../slices/text-overlays';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Lays a line of words over a stretch; null: takes it away. */
export const setTextOverlay = kindOf({
  schema: z
    .object({
      do: z.literal('set-text-overlay'),
      ...ENDS,
      textOverlay: textOverlaySchema.nullable(),
    })
    .refine(runsForward, FORWARD),
  slice: textOverlaysSlice,
  apply: (before, { textOverlay, ...stretch }) =>
    layOrClear(before, stretch, textOverlay && { textOverlay }),
  touches: ({ takeId, startUs, endUs, textOverlay }) => [
    { slot: `text overlay ${takeId}`, range: { startUs, endUs }, value: textOverlay },
  ],
  isUndoable: always,
  inWords: (edit) =>
    edit.textOverlay ? `put words over ${STRETCH}` : `took words away from ${STRETCH}`,
});
