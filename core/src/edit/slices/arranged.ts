import * as z from 'zod';
import { arrangementSchema } from '../../lesson/arrangement';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Arrangements that differ from the resting one. By take and time, disjoint (`time/timeline`). */
export const arrangedSlice = sliceOf(
  'arranged',
  z.array(stretchSchema.and(z.object({ arrangement: arrangementSchema }))).readonly(),
  [],
);
