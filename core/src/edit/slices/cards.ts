import * as z from 'zod';
import { cardSchema } from '../../lesson/card';
import { sliceOf } from '../slice';

/** What stands before the film and after it; null: nothing. */
export const cardsSlice = sliceOf(
  'cards',
  z.object({ opening: cardSchema.nullable(), closing: cardSchema.nullable() }).readonly(),
  { opening: null, closing: null },
);
