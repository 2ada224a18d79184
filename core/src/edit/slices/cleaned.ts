import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { cleaningSchema } from '../../sound/cleaning/cleaning';
import { sliceOf } from '../slice';

/** Takes whose voice is heard without the room it was recorded in. */
export const cleanedSlice = sliceOf(
  'cleaned',
  z.array(z.object({ takeId: idSchema, cleaning: cleaningSchema }).readonly()).readonly(),
  [],
);
