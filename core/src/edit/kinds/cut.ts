import * as z from 'zod';
import { merge } from '../../time/ranges';
import { always, kindOf } from '../kind';
import { withCuts } from './cuts-of-take';
import { ENDS, FORWARD, runsForward, stretchInWords } from './stretch-of-take';

/** Leaves a stretch out. */
export const cut = kindOf({
  schema: z.object({ do: z.literal('cut'), ...ENDS }).refine(runsForward, FORWARD),
  slice: 'cuts',
  apply: (before, edit) => withCuts(before, edit.takeId, (cuts) => merge([...cuts, edit])),
  touches: ({ takeId, startUs, endUs }) => [
    { slot: `cut ${takeId}`, range: { startUs, endUs }, value: true },
  ],
  isUndoable: always,
  inWords: (edit) => `cut ${stretchInWords(edit)}`,
});
