import * as z from 'zod';
import { lineSchema } from '../../lesson/line';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches with a line of words over them. By take and time, disjoint (`time/timeline`). */
export const linesSlice = sliceOf(
  'lines',
  z.array(stretchSchema.and(z.object({ line: lineSchema }))).readonly(),
  [],
);
