import { PAGE_ASPECT } from '../ink/page';
import type { Rect } from '../scene/geometry';

/**
 * Where a page of a material lies on the page that is written on: as large as it goes, in the middle.
 *
 * @param aspect of the material's page, width over height
 * @returns in widths of the page that is written on
 */
export const placeOnPage = (aspect: number): Rect => {
  const high = 1 / PAGE_ASPECT;
  const width = Math.min(1, high * aspect);
  const height = width / aspect;
  return { x: (1 - width) / 2, y: (high - height) / 2, width, height };
};
