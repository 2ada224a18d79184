import * as z from 'zod';
import { layOrClear } from '../../time/timeline';
import { changedDbSchema, dbInWords, gainKindSchema } from '../../sound/gains';
import { always, kindOf } from '../kind';
import { gainsSlice } from '../slices/gains';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Has a voice, or what the computer plays, be louder or quieter for a stretch; null: as in the rest of the take. */
export const setGain = kindOf({
  schema: z
    .object({
      do: z.literal('set-gain'),
      ...ENDS,
      of: gainKindSchema,
      db: changedDbSchema.nullable(),
    })
    .refine(runsForward, FORWARD),
  slice: gainsSlice,
  apply: (before, { of, db, takeId, startUs, endUs }) => ({
    ...before,
    [of]: layOrClear(before[of], { takeId, startUs, endUs }, db === null ? null : { db }),
  }),
  touches: ({ takeId, startUs, endUs, of, db }) => [
    { slot: `level ${of} ${takeId}`, range: { startUs, endUs }, value: db },
  ],
  isUndoable: always,
  inWords: (edit) => {
    const what = edit.of === 'voice' ? 'the voice' : 'the computer’s sound';
    return edit.db === null
      ? `left ${what} as it is for ${STRETCH}`
      : `made ${what} ${dbInWords(edit.db)} for ${STRETCH}`;
  },
});
