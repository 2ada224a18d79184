import * as z from 'zod';
import type { Us } from '../time/us';
import { cropSchema, type Crop } from './crop';

export const paceSchema = z.enum(['quick', 'middling', 'unhurried']);
export type Pace = z.infer<typeof paceSchema>;

/** How long the picture takes to come closer, to go back, or from one close-up to the next. */
export const PACES: Readonly<Record<Pace, Us>> = {
  quick: 300_000,
  middling: 700_000,
  unhurried: 1_400_000,
};

/** A part of the surface that is come closer to for a stretch. */
export const closeUpSchema = z
  .object({
    /** In fractions of the whole surface; of the camera's picture, where there is no surface. */
    part: cropSchema,
    pace: paceSchema,
  })
  .readonly();
export type CloseUp = z.infer<typeof closeUpSchema>;

/** Source pictures that are blown up more than this look soft. */
export const MOST_BLOWN_UP = 2;

/** How much of what is shown otherwise a part takes up, along the side of which it takes more; 1 at most. */
export const shareOf = (from: Crop, part: Crop): number =>
  Math.min(1, Math.max(part.width / from.width, part.height / from.height));

/** Nearly all of it is all of it. */
const NEARLY_ALL = 0.97;

/** Whether a part shows anything closer than what is shown otherwise. */
export const isCloser = (from: Crop, part: Crop): boolean => shareOf(from, part) < NEARLY_ALL;

/**
 * What is shown for a close-up of what is shown otherwise: the least of it that has the part in it and the same shape,
 * with the part in the middle as far as there is room.
 *
 * @param from what is shown otherwise, in fractions of the picture
 */
export const zoomedTo = (from: Crop, part: Crop): Crop => {
  const times = shareOf(from, part);
  const [width, height] = [from.width * times, from.height * times];
  const inside = (middle: number, size: number, start: number, room: number) =>
    Math.min(start + room - size, Math.max(start, middle - size / 2));
  return {
    x: inside(part.x + part.width / 2, width, from.x, from.width),
    y: inside(part.y + part.height / 2, height, from.y, from.height),
    width,
    height,
  };
};
