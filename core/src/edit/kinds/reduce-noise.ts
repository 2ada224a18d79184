import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { noiseReductionSchema } from '../../sound/noise-reduction/noise-reduction';
import { always, kindOf } from '../kind';
import { noiseReductionSlice } from '../slices/noise-reduction';

/** Takes the room from under a take's voice; null: it is heard as it was recorded. */
export const reduceNoise = kindOf({
  schema: z.object({
    do: z.literal('reduce-noise'),
    takeId: idSchema,
    reduction: noiseReductionSchema.nullable(),
  }),
  slice: noiseReductionSlice,
  apply: (before, { takeId, reduction }) => [
    ...before.filter((one) => one.takeId !== takeId),
    ...(reduction ? [{ takeId, reduction }] : []),
  ],
  touches: ({ takeId, reduction }) => [{ slot: `clean ${takeId}`, value: reduction }],
  isUndoable: always,
  inWords: ({ reduction }) =>
    reduction
      ? 'took the room from under a take’s voice'
      : 'left a take’s voice in the room it was recorded in',
});
