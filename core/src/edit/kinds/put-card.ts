import * as z from 'zod';
import { cardPlaceSchema, cardSchema } from '../../lesson/card';
import { always, kindOf } from '../kind';
import { cardsSlice } from '../slices/cards';

/** Puts a card before the film or after it; null: takes it away. */
export const putCard = kindOf({
  schema: z.object({
    do: z.literal('put-card'),
    place: cardPlaceSchema,
    card: cardSchema.nullable(),
  }),
  slice: cardsSlice,
  apply: (before, { place, card }) => ({ ...before, [place]: card }),
  touches: ({ place, card }) => [{ slot: `card ${place}`, value: card }],
  isUndoable: always,
  inWords: ({ place, card }) => {
    const name = place === 'opening' ? 'opening card' : 'closing card';
    return card ? `changed the ${name}` : `took the ${name} away`;
  },
});
