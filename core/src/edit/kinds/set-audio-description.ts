import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { formatClock } from '../../time/us';
import { audioDescriptionSchema, inDescribedOrder } from '../../words/audio-description';
import { always, kindOf } from '../kind';
import { audioDescriptionsSlice } from '../slices/audio-descriptions';

/** Puts what is seen at a moment into words, anew or in place of what was said there; null: takes it away. */
export const setAudioDescription = kindOf({
  schema: z
    .object({
      do: z.literal('set-audio-description'),
      id: idSchema,
      description: audioDescriptionSchema.nullable(),
    })
    .refine(
      ({ id, description }) => description === null || description.id === id,
      'of the same id',
    ),
  slice: audioDescriptionsSlice,
  apply: (before, { id, description }) =>
    [...before.filter((one) => one.id !== id), ...(description ? [description] : [])].sort(
      inDescribedOrder,
    ),
  touches: ({ id, description }) => [{ slot: `description ${id}`, value: description }],
  isUndoable: always,
  inWords: ({ description }) =>
    description
      ? `described what is seen at ${formatClock(description.atUs)}`
      : 'took a description away',
});
