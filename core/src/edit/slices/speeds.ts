import * as z from 'zod';
import { speedSchema } from '../../lesson/speed';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches that go by faster or slower than they were recorded. By take and time, disjoint (`time/timeline`). */
export const speedsSlice = sliceOf(
  'speeds',
  z.array(stretchSchema.and(z.object({ speed: speedSchema }))).readonly(),
  [],
);
