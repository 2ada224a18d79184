import * as z from 'zod';
import { materialPageSchema, type MaterialPage } from '../material/material';
import { cleanLine } from '../text/clean';

const fraction = z.number().min(0).max(1);

/** Words in place of a picture. */
const wordsSchema = z
  .object({ text: z.string().overwrite(cleanLine).trim().min(1).max(80) })
  .readonly();

/** A picture or words that lie over all of a film: a sign of the school, a mark of whose it is. */
export const watermarkSchema = z
  .object({
    of: z.union([materialPageSchema, wordsSchema]),
    /** As of an inset: 0 is against the left or top margin, 1 against the right or bottom one. */
    placeX: fraction,
    placeY: fraction,
    /** Its height, a fraction of the frame's; of words, three times that of their letters. */
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

/** The page that it shows; null where it is words. */
export const pageOfWatermark = ({ of }: Watermark): MaterialPage | null =>
  'content' in of ? of : null;
