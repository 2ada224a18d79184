import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { inInteractionOrder, interactionSchema } from '../../interaction/interaction';
import { formatClock } from '../../time/us';
import { always, kindOf } from '../kind';
import { interactionsSlice } from '../slices/interactions';

const NAMES = { question: 'a question', note: 'a note', link: 'a link', pause: 'a pause' } as const;

/** Asks or says something at a time of the film, anew or in place of what was there; null: takes it away. */
export const setInteraction = kindOf({
  schema: z
    .object({
      do: z.literal('set-interaction'),
      id: idSchema,
      interaction: interactionSchema.nullable(),
    })
    .refine(
      ({ id, interaction }) => interaction === null || interaction.id === id,
      'of the same id',
    ),
  slice: interactionsSlice,
  apply: (before, { id, interaction }) =>
    [...before.filter((one) => one.id !== id), ...(interaction ? [interaction] : [])].sort(
      inInteractionOrder,
    ),
  touches: ({ id, interaction }) => [{ slot: `interaction ${id}`, value: interaction }],
  isUndoable: always,
  inWords: ({ interaction }) =>
    interaction
      ? `put ${NAMES[interaction.does.is]} at ${formatClock(interaction.atUs)}`
      : 'took what was asked or said away',
});
