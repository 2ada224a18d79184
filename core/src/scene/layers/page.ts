import type { MaterialPage } from '../../material/material';
import { sameRect, type Rect } from '../geometry';
import type { LayerKind } from './kind';

/** A page of a material, lying in the frame by itself. */
export interface PageLayer {
  readonly kind: 'page';
  readonly of: MaterialPage;
  /** The part of it that is shown. */
  readonly from: Rect;
  readonly to: Rect;
  readonly opacity: number;
  /** What it lets through is seen through it; else it lies on white. */
  readonly clear: boolean;
}

export const page: LayerKind<PageLayer> = {
  standsStill: (before, after) =>
    before.of.content === after.of.content &&
    before.of.page === after.of.page &&
    sameRect(before.from, after.from) &&
    sameRect(before.to, after.to) &&
    before.opacity === after.opacity &&
    before.clear === after.clear,
};
