import * as z from 'zod';
import { clear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { cutsSlice } from '../slices/cuts';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Brings back what of a stretch was cut. */
export const restore = kindOf({
  schema: z.object({ do: z.literal('restore'), ...ENDS }).refine(runsForward, FORWARD),
  slice: cutsSlice,
  apply: (before, { takeId, startUs, endUs }) => clear(before, { takeId, startUs, endUs }),
  touches: ({ takeId, startUs, endUs }) => [
    { slot: `cut ${takeId}`, range: { startUs, endUs }, value: false },
  ],
  isUndoable: always,
  inWords: (edit) => `brought back ${STRETCH}`,
});
