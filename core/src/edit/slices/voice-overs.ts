import * as z from 'zod';
import { footageSchema } from '../../lesson/cutaway';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches over which a voice is heard that was spoken anew, in place of their own. By take and time, disjoint. */
export const voiceOversSlice = sliceOf(
  'voiceOvers',
  z.array(stretchSchema.and(z.object({ by: footageSchema }))).readonly(),
  [],
);
