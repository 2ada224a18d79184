import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { noiseReductionSchema } from '../../sound/noise-reduction/noise-reduction';
import { sliceOf } from '../slice';

/** Takes whose voice is heard without the room it was recorded in. */
export const noiseReductionSlice = sliceOf(
  'noiseReduction',
  z.array(z.object({ takeId: idSchema, reduction: noiseReductionSchema }).readonly()).readonly(),
  [],
);
