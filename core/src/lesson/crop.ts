import * as z from 'zod';

/** No part of a surface smaller than this can be shown alone: a twentieth of its side. */
export const LEAST_CROP = 0.05;

const fraction = z.number().min(0).max(1);

/** Part of a surface that is shown, in fractions of its picture. */
export const cropSchema = z
  .object({
    x: fraction,
    y: fraction,
    width: z.number().min(LEAST_CROP).max(1),
    height: z.number().min(LEAST_CROP).max(1),
  })
  .refine((crop) => crop.x + crop.width <= 1.000001 && crop.y + crop.height <= 1.000001, {
    error: 'a crop lies inside the picture',
  })
  .readonly();
export type Crop = z.infer<typeof cropSchema>;

/** All of it. */
export const UNCROPPED: Crop = { x: 0, y: 0, width: 1, height: 1 };

export const sameCrop = (a: Crop, b: Crop): boolean =>
  a === b || (a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height);

const clamp = (value: number) => Math.min(1, Math.max(0, value));

/**
 * The crop between two corners, in any order, kept inside the picture and no smaller than allowed.
 * Null when the corners are so near each other that it was a press and not a drag.
 */
export const cropBetween = (
  a: { x: number; y: number },
  b: { x: number; y: number },
): Crop | null => {
  const left = clamp(Math.min(a.x, b.x));
  const top = clamp(Math.min(a.y, b.y));
  const width = clamp(Math.max(a.x, b.x)) - left;
  const height = clamp(Math.max(a.y, b.y)) - top;
  if (width < 0.02 && height < 0.02) return null;
  const wide = Math.max(LEAST_CROP, width);
  const high = Math.max(LEAST_CROP, height);
  return { x: Math.min(left, 1 - wide), y: Math.min(top, 1 - high), width: wide, height: high };
};

/** The crop as two fingers change it: so many times as near, with what was between them still there. */
export const pinched = (crop: Crop, times: number, at: { x: number; y: number }): Crop => {
  const by = 1 / Math.max(times, 0.01);
  const side = (start: number, size: number, fixed: number) => {
    const sized = Math.min(1, Math.max(LEAST_CROP, size * by));
    // Where the fingers are, in parts of what is shown.
    const part = size > 0 ? (fixed - start) / size : 0.5;
    return { start: Math.min(1 - sized, Math.max(0, fixed - part * sized)), size: sized };
  };
  const across = side(crop.x, crop.width, clamp(at.x));
  const down = side(crop.y, crop.height, clamp(at.y));
  return { x: across.start, y: down.start, width: across.size, height: down.size };
};

/** One edge moved by a step, for those who don't drag. Edges can't cross, nor leave the picture. */
export const moveEdge = (
  crop: Crop,
  edge: 'left' | 'right' | 'top' | 'bottom',
  by: number,
): Crop => {
  const right = crop.x + crop.width;
  const bottom = crop.y + crop.height;
  switch (edge) {
    case 'left': {
      const x = Math.min(right - LEAST_CROP, clamp(crop.x + by));
      return { ...crop, x, width: right - x };
    }
    case 'right':
      return { ...crop, width: Math.max(LEAST_CROP, clamp(right + by) - crop.x) };
    case 'top': {
      const y = Math.min(bottom - LEAST_CROP, clamp(crop.y + by));
      return { ...crop, y, height: bottom - y };
    }
    case 'bottom':
      return { ...crop, height: Math.max(LEAST_CROP, clamp(bottom + by) - crop.y) };
  }
};
