import * as z from 'zod';
import { ARRANGEMENT_NAMES, arrangementSchema } from '../../lesson/arrangement';
import { lay } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { arrangedSlice } from '../slices/arranged';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Says how surface and camera share the picture for a stretch. */
export const arrange = kindOf({
  schema: z
    .object({ do: z.literal('arrange'), ...ENDS, arrangement: arrangementSchema })
    .refine(runsForward, FORWARD),
  slice: arrangedSlice,
  apply: (before, { takeId, startUs, endUs, arrangement }) =>
    lay(before, { takeId, startUs, endUs, arrangement }),
  touches: ({ takeId, startUs, endUs, arrangement }) => [
    { slot: `arranged ${takeId}`, range: { startUs, endUs }, value: arrangement },
  ],
  isUndoable: always,
  inWords: ({ arrangement }) => `showed ${ARRANGEMENT_NAMES[arrangement.kind]} for ${STRETCH}`,
});
