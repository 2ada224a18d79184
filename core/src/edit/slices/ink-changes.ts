import * as z from 'zod';
import { inkChangeSchema } from '../../ink/change';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Strokes that were changed after they were recorded or added; one of each at most, by their names. */
export const inkChangesSlice = sliceOf(
  'inkChanges',
  z
    .array(z.object({ takeId: idSchema, strokeId: idSchema, change: inkChangeSchema }).readonly())
    .readonly(),
  [],
);
