import * as z from 'zod';
import { stretchSchema } from '../../lesson/stretch';
import { changedDbSchema } from '../../sound/gains';
import { sliceOf } from '../slice';

const timeline = z.array(stretchSchema.and(z.object({ db: changedDbSchema }))).readonly();

/** Stretches in which a voice, or what the computer plays, is louder or quieter. By take and time, disjoint. */
export const gainsSlice = sliceOf(
  'gains',
  z.object({ voice: timeline, 'computer-sound': timeline }).readonly(),
  { voice: [], 'computer-sound': [] },
);
