import * as z from 'zod';
import { addedStrokeSchema } from '../../ink/change';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Strokes that were added to takes after they were recorded, the earlier ones first: what is written later lies above. */
export const addedInkSlice = sliceOf(
  'addedInk',
  z.array(z.object({ takeId: idSchema, stroke: addedStrokeSchema }).readonly()).readonly(),
  [],
);
