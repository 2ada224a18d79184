import * as z from 'zod';
import { closeUpSchema } from '../../lesson/close-up';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches in which a part of the surface is seen closer. By take and time, disjoint (`time/timeline`). */
export const closeUpsSlice = sliceOf(
  'closeUps',
  z.array(stretchSchema.and(z.object({ closeUp: closeUpSchema }))).readonly(),
  [],
);
