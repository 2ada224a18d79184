import * as z from 'zod';
import { subtract } from '../../time/ranges';
import { always, kindOf } from '../kind';
import { withCuts } from './cuts-of-take';
import { ENDS, FORWARD, runsForward, stretchInWords } from './stretch-of-take';

/** Brings back what of a stretch was cut. */
export const restore = kindOf({
  schema: z.object({ do: z.literal('restore'), ...ENDS }).refine(runsForward, FORWARD),
  slice: 'cuts',
  apply: (before, edit) => withCuts(before, edit.takeId, (cuts) => subtract(cuts, [edit])),
  touches: ({ takeId, startUs, endUs }) => [
    { slot: `cut ${takeId}`, range: { startUs, endUs }, value: false },
  ],
  isUndoable: always,
  inWords: (edit) => `brought back ${stretchInWords(edit)}`,
});
