import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { cleaningSchema } from '../../sound/cleaning/cleaning';
import { always, kindOf } from '../kind';
import { cleanedSlice } from '../slices/cleaned';

/** Takes the room from under a take's voice; null: it is heard as it was recorded. */
export const cleanSound = kindOf({
  schema: z.object({
    do: z.literal('clean-sound'),
    takeId: idSchema,
    cleaning: cleaningSchema.nullable(),
  }),
  slice: cleanedSlice,
  apply: (before, { takeId, cleaning }) => [
    ...before.filter((one) => one.takeId !== takeId),
    ...(cleaning ? [{ takeId, cleaning }] : []),
  ],
  touches: ({ takeId, cleaning }) => [{ slot: `clean ${takeId}`, value: cleaning }],
  isUndoable: always,
  inWords: ({ cleaning }) =>
    cleaning
      ? 'took the room from under a take’s voice'
      : 'left a take’s voice in the room it was recorded in',
});
