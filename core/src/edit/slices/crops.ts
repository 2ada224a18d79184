import * as z from 'zod';
import { cropSchema } from '../../lesson/crop';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** The part of the surface that is shown, of takes that don't show all of it. */
export const cropsSlice = sliceOf(
  'crops',
  z.array(z.object({ takeId: idSchema, crop: cropSchema })).readonly(),
  [],
);
