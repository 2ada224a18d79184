import * as z from 'zod';
import { FREE_DESTINATION_ID } from '../destination/destination';
import { cleanLine, cleanText } from '../text/clean';

/** What a lesson is called, whom it is for, and where it goes. */
export const planSchema = z
  .object({
    /** Names the goal of the lesson. Files and pages are named by it. */
    title: z.string().overwrite(cleanLine).trim().max(140),
    description: z.string().overwrite(cleanText).trim().max(600),
    className: z.string().overwrite(cleanLine).trim().max(140),
    unit: z.string().overwrite(cleanLine).trim().max(140),
    destinationId: z.string().max(64),
  })
  .readonly();
export type Plan = z.infer<typeof planSchema>;

/** Nothing said yet. */
export const NEW_PLAN: Plan = {
  title: '',
  description: '',
  className: '',
  unit: '',
  destinationId: FREE_DESTINATION_ID,
};
