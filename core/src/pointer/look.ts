import * as z from 'zod';
import { inkColourSchema } from '../ink/pen';

/** What is drawn where something points. */
export const pointerMarkSchema = z.enum(['none', 'arrow', 'halo', 'spotlight']);
export type PointerMark = z.infer<typeof pointerMarkSchema>;

/** How what was pointed at is drawn. It was recorded as places: this can be changed at any time. */
export const pointerLookSchema = z
  .object({
    mark: pointerMarkSchema,
    /** Across, a fraction of the width of what is shown. */
    size: z.number().min(0.01).max(0.5),
    colour: inkColourSchema,
    /** A ring where it was pressed. */
    rings: z.boolean(),
    /** It goes when it has been still for so long, µs; 0: it stays. */
    goesAfterUs: z.number().int().min(0).max(60_000_000),
    /** How loud a press is heard, 0 to 1; 0, or absent as in looks of before: it isn't. */
    clicks: z.number().min(0).max(1).optional(),
    /** A press holds a spotlight where it is; one inside of it lets it go. */
    holds: z.boolean().optional(),
  })
  .readonly();
export type PointerLook = z.infer<typeof pointerLookSchema>;

export const FIRST_LOOK: PointerLook = {
  ...{ mark: 'halo', size: 0.07, colour: 'amber', rings: true, goesAfterUs: 3_000_000 },
};

/** Of a pointer that is in the picture anyway. */
export const LEFT_AS_IT_IS: PointerLook = { ...FIRST_LOOK, mark: 'none', rings: false };

/** Whether nothing of a pointer is drawn or heard. */
export const isLeftAlone = ({ mark, rings, clicks }: PointerLook): boolean =>
  mark === 'none' && !rings && !clicks;

/** How loud presses can be chosen to be. */
export const CLICK_LEVELS = { none: 0, soft: 0.3, clear: 0.8 } as const;

/** How long a ring is seen. */
export const RING_US = 450_000;
/** How long a pointer takes to go, once it has been still. */
export const GOES_US = 300_000;

/** Sizes to choose from, for marks that lie on a place and for the light on one. */
export const POINTER_SIZES = {
  small: { mark: 0.045, light: 0.18 },
  middling: { mark: 0.07, light: 0.28 },
  large: { mark: 0.11, light: 0.4 },
} as const;
