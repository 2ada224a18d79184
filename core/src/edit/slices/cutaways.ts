import * as z from 'zod';
import { stretchSchema } from '../../lesson/stretch';
import { cutawaySchema } from '../../lesson/cutaway';
import { sliceOf } from '../slice';

/** Stretches in which a page or other footage is shown in place of what was recorded. By take and time, disjoint (`time/timeline`). */
export const cutawaysSlice = sliceOf(
  'cutaways',
  z.array(stretchSchema.and(z.object({ of: cutawaySchema }))).readonly(),
  [],
);
