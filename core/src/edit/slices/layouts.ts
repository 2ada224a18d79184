import * as z from 'zod';
import { layoutSchema } from '../../lesson/layout';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Layouts that differ from the default one. By take and time, disjoint (`time/timeline`). */
export const layoutsSlice = sliceOf(
  'layouts',
  z.array(stretchSchema.and(z.object({ layout: layoutSchema }))).readonly(),
  [],
);
