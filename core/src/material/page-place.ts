import { PAGE_ASPECT } from '../ink/page';
import type { Rect } from '../scene/geometry';
import type { MaterialPage } from './material';

/**
 * Where a page of a material lies on the page that is written on: as large as it goes, in the middle of the page or of
 * its left half.
 *
 * @returns in widths of the page that is written on
 */
export const placeOnPage = ({ aspect, beside }: Pick<MaterialPage, 'aspect' | 'beside'>): Rect => {
  const [wide, high] = [beside ? 0.5 : 1, 1 / PAGE_ASPECT];
  const width = Math.min(wide, high * aspect);
  const height = width / aspect;
  return { x: (wide - width) / 2, y: (high - height) / 2, width, height };
};
