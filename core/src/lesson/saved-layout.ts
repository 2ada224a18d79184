import * as z from 'zod';
import { cleanLine } from '../text/clean';
import { layoutSchema } from './layout';
import { idSchema } from './take';

/** As many can be kept: each has a key of its own while recording. */
export const MOST_SAVED_LAYOUTS = 3;

/** A layout of the teacher's own, kept under a name for all lessons. */
export const savedLayoutSchema = z
  .object({
    id: idSchema,
    name: z.string().overwrite(cleanLine).trim().min(1).max(40),
    layout: layoutSchema,
  })
  .readonly();
export type SavedLayout = z.infer<typeof savedLayoutSchema>;

export const savedLayoutsSchema = z.array(savedLayoutSchema).max(MOST_SAVED_LAYOUTS).readonly();
