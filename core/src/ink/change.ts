import * as z from 'zod';
import { idSchema, LONGEST_TAKE_US, usSchema } from '../lesson/take';
import { inkColourSchema, penSchema, stayingSchema } from './pen';
import { MOST_SAMPLES, placeSchema, sampleSchema, strokeTextSchema } from './record';

/** What is changed about a stroke afterwards, each against what was recorded. What isn't named stays as it was. */
export const inkChangeSchema = z
  .object({
    colour: inkColourSchema,
    /** Of the line, or height of the letters: a fraction of the page's width. */
    width: penSchema.unwrap().shape.width,
    stays: stayingSchema,
    text: strokeTextSchema,
    /** How far it is moved, widths of the page. */
    x: placeSchema,
    y: placeSchema,
    /** How much later it is drawn, µs; earlier where negative. */
    laterUs: z.number().int().min(-LONGEST_TAKE_US).max(LONGEST_TAKE_US),
    /** Recorded time at which it is wiped, whatever wiped it before; null: nothing wipes it. */
    untilUs: usSchema.nullable(),
    /** It was taken away. */
    gone: z.boolean(),
  })
  .partial()
  .readonly();
export type InkChange = z.infer<typeof inkChangeSchema>;

/** A stroke that was added to a take after it was recorded. */
export const addedStrokeSchema = z
  .object({
    id: idSchema,
    /** The page that it lies on; null where there is none: over what was captured. */
    page: idSchema.nullable(),
    pen: penSchema,
    text: strokeTextSchema,
    /** Recorded time at which it begins. */
    atUs: usSchema,
    /** As a hand draws it, from then on. All at once where no time passes between them. */
    samples: z.array(sampleSchema).min(1).max(MOST_SAMPLES).readonly(),
  })
  .readonly();
export type AddedStroke = z.infer<typeof addedStrokeSchema>;
