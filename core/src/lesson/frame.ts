import * as z from 'zod';
import { materialPageSchema } from '../material/material';
import { frameShapeSchema } from './layout';

/** A colour as CSS writes it: `#20292f`. */
const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/);

/** What lies behind the pictures, where they don't fill the frame. */
export const groundSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('colour'), colour: colourSchema }).readonly(),
  /** From the top to the bottom. */
  z.object({ is: z.literal('gradient'), from: colourSchema, to: colourSchema }).readonly(),
  /** A picture that fills the frame. */
  z.object({ is: z.literal('page'), of: materialPageSchema }).readonly(),
]);
export type Ground = z.infer<typeof groundSchema>;

export const PLAIN_GROUND: Ground = { is: 'colour', colour: '#20292f' };

/** How the output picture is laid out round what it shows. */
export const backgroundSchema = z
  .object({
    ground: groundSchema,
    /** Room on all sides, a fraction of the frame's width and of its height. */
    margin: z.number().min(0).max(0.2),
    /** Rounding of the surface's corners in it, as of an inset: 0 square, 0.5 round. */
    rounding: z.number().min(0).max(0.5),
  })
  .readonly();
export type Background = z.infer<typeof backgroundSchema>;

export const frameSchema = backgroundSchema.unwrap().extend({ shape: frameShapeSchema }).readonly();
export type Frame = z.infer<typeof frameSchema>;

export const NEW_FRAME: Frame = { shape: '16:9', ground: PLAIN_GROUND, margin: 0, rounding: 0 };
