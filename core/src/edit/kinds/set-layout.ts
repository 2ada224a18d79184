import * as z from 'zod';
import { LAYOUT_NAMES, layoutSchema } from '../../lesson/layout';
import { lay } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { layoutsSlice } from '../slices/layouts';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Says how surface and camera share the picture for a stretch. */
export const setLayout = kindOf({
  schema: z
    .object({ do: z.literal('set-layout'), ...ENDS, layout: layoutSchema })
    .refine(runsForward, FORWARD),
  slice: layoutsSlice,
  apply: (before, { takeId, startUs, endUs, layout }) =>
    lay(before, { takeId, startUs, endUs, layout }),
  touches: ({ takeId, startUs, endUs, layout }) => [
    { slot: `layout ${takeId}`, range: { startUs, endUs }, value: layout },
  ],
  isUndoable: always,
  inWords: ({ layout }) => `showed ${LAYOUT_NAMES[layout.kind]} for ${STRETCH}`,
});
