import * as z from 'zod';
import { cutawaySchema } from '../../lesson/cutaway';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { cutawaysSlice } from '../slices/cutaways';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Shows a page, or another take's picture, in place of what was recorded for a stretch; null: what was recorded again. */
export const setCutaway = kindOf({
  schema: z
    .object({ do: z.literal('set-cutaway'), ...ENDS, of: cutawaySchema.nullable() })
    .refine(runsForward, FORWARD),
  slice: cutawaysSlice,
  apply: (before, { of, ...stretch }) => layOrClear(before, stretch, of && { of }),
  touches: ({ takeId, startUs, endUs, of }) => [
    { slot: `cutaway ${takeId}`, range: { startUs, endUs }, value: of },
  ],
  isUndoable: always,
  inWords: (edit) =>
    edit.of ? `showed something else for ${STRETCH}` : `showed what was recorded for ${STRETCH}`,
});
