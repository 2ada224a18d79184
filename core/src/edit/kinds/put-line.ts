import * as z from 'zod';
import { lineSchema } from '../../lesson/line';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { linesSlice } from '../slices/lines';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Lays a line of words over a stretch; null: takes it away. */
export const putLine = kindOf({
  schema: z
    .object({ do: z.literal('put-line'), ...ENDS, line: lineSchema.nullable() })
    .refine(runsForward, FORWARD),
  slice: linesSlice,
  apply: (before, { line, ...stretch }) => layOrClear(before, stretch, line && { line }),
  touches: ({ takeId, startUs, endUs, line }) => [
    { slot: `line ${takeId}`, range: { startUs, endUs }, value: line },
  ],
  isUndoable: always,
  inWords: (edit) => (edit.line ? `put words over ${STRETCH}` : `took words away from ${STRETCH}`),
});
