import * as z from 'zod';
import { materialPageSchema } from '../material/material';

const fraction = z.number().min(0).max(1);

/** A picture that lies over all of a film: a sign of the school, a mark of whose it is. */
export const watermarkSchema = z
  .object({
    of: materialPageSchema,
    /** As of an inset: 0 is against the left or top margin, 1 against the right or bottom one. */
    placeX: fraction,
    placeY: fraction,
    /** Its height, a fraction of the frame's. */
    size: z.number().min(0.03).max(0.5),
    /** How much of what lies under it is covered. */
    strength: z.number().min(0.05).max(1),
  })
  .readonly();
export type Watermark = z.infer<typeof watermarkSchema>;

/** How one begins: small, at the upper right, and quiet. */
export const FIRST_WATERMARK: Omit<Watermark, 'of'> = {
  ...{ placeX: 1, placeY: 0, size: 0.1, strength: 0.7 },
};
