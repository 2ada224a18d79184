import * as z from 'zod';
import { cleanText } from '../text/clean';

/** A line of words that lies over the film for a stretch: `page 12 of the tables`. */
export const lineSchema = z
  .object({
    text: z.string().trim().min(1).max(160).overwrite(cleanText),
    place: z.enum(['top', 'bottom']),
  })
  .readonly();
export type Line = z.infer<typeof lineSchema>;
