import * as z from 'zod';
import { join } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { cutsSlice } from '../slices/cuts';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Leaves a stretch out. */
export const cut = kindOf({
  schema: z.object({ do: z.literal('cut'), ...ENDS }).refine(runsForward, FORWARD),
  slice: cutsSlice,
  apply: (before, { takeId, startUs, endUs }) => join(before, { takeId, startUs, endUs }),
  touches: ({ takeId, startUs, endUs }) => [
    { slot: `cut ${takeId}`, range: { startUs, endUs }, value: true },
  ],
  isUndoable: always,
  inWords: (edit) => `cut ${STRETCH}`,
});
