import * as z from 'zod';
import { cardPlaceSchema, titleCardSchema } from '../../lesson/title-card';
import { always, kindOf } from '../kind';
import { titleCardsSlice } from '../slices/title-cards';

/** Puts a card before the film or after it; null: takes it away. */
export const setTitleCard = kindOf({
  schema: z.object({
    do: z.literal('set-title-card'),
    place: cardPlaceSchema,
    card: titleCardSchema.nullable(),
  }),
  slice: titleCardsSlice,
  apply: (before, { place, card }) => ({ ...before, [place]: card }),
  touches: ({ place, card }) => [{ slot: `card ${place}`, value: card }],
  isUndoable: always,
  inWords: ({ place, card }) => {
    const name = place === 'opening' ? 'opening card' : 'closing card';
    return card ? `changed the ${name}` : `took the ${name} away`;
  },
});
