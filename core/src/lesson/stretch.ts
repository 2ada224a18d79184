import * as z from 'zod';
import { idSchema, usSchema } from './take';

/** A stretch of recorded time of one take. */
export const stretchSchema = z
  .object({ takeId: idSchema, startUs: usSchema, endUs: usSchema })
  .refine((stretch) => stretch.endUs > stretch.startUs, 'a stretch ends after it starts');
export type Stretch = Readonly<z.infer<typeof stretchSchema>>;
