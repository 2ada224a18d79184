import * as z from 'zod';
import { cleanLine } from '../text/clean';
import { arrangementSchema } from './arrangement';
import { idSchema } from './take';

/** As many can be kept: each has a key of its own while recording. */
export const MOST_KEPT_ARRANGEMENTS = 3;

/** An arrangement of the teacher's own, kept under a name for all lessons. */
export const keptArrangementSchema = z
  .object({
    id: idSchema,
    name: z.string().overwrite(cleanLine).trim().min(1).max(40),
    arrangement: arrangementSchema,
  })
  .readonly();
export type KeptArrangement = z.infer<typeof keptArrangementSchema>;

export const keptArrangementsSchema = z
  .array(keptArrangementSchema)
  .max(MOST_KEPT_ARRANGEMENTS)
  .readonly();
