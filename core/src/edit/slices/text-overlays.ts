import * as z from 'zod';
import { textOverlaySchema } from '../../lesson/text-overlay';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches with a line of words over them. By take and time, disjoint (`time/timeline`). */
export const textOverlaysSlice = sliceOf(
  'textOverlays',
  z.array(stretchSchema.and(z.object({ textOverlay: textOverlaySchema }))).readonly(),
  [],
);
