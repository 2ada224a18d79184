import * as z from 'zod';
import { titleCardSchema } from '../../lesson/title-card';
import { sliceOf } from '../slice';

/** What stands before the film and after it; null: nothing. */
export const titleCardsSlice = sliceOf(
  'titleCards',
  z.object({ opening: titleCardSchema.nullable(), closing: titleCardSchema.nullable() }).readonly(),
  { opening: null, closing: null },
);
