import * as z from 'zod';

/** How the captions of the language that is spoken stand in the picture. */
export const captionLookSchema = z
  .object({
    /** Part of the picture, for all to see; else whoever watches switches them on. */
    burntIn: z.boolean(),
    /** `clear`: at the bottom, or at the top where they would cover a face or what is written. */
    place: z.enum(['clear', 'bottom', 'middle', 'top']),
    /** Their height, a fraction of the frame's shorter side: of one line's letters. */
    size: z.number().min(0.03).max(0.12),
    /** What they lie on. */
    ground: z.enum(['band', 'none']),
  })
  .readonly();
export type CaptionLook = z.infer<typeof captionLookSchema>;

/** How they are before anything is said of it. */
export const FIRST_CAPTION_LOOK: CaptionLook = {
  ...{ burntIn: false, place: 'bottom', size: 0.05, ground: 'band' },
};
