import * as z from 'zod';
import { cleanText } from '../text/clean';

/** A line of words that lies over the film for a stretch: `page 12 of the tables`. */
export const textOverlaySchema = z
  .object({
    text: z.string().trim().min(1).max(160).overwrite(cleanText),
    place: z.enum(['top', 'bottom']),
  })
  .readonly();
export type TextOverlay = z.infer<typeof textOverlaySchema>;
