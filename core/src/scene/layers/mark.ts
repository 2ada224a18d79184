import type { LayerKind } from './kind';

/** A few words at a place of the frame, over everything. */
export interface MarkLayer {
  readonly kind: 'mark';
  readonly text: string;
  /** As of an inset: 0 is against the left or top margin, 1 against the right or bottom one. */
  readonly placeX: number;
  readonly placeY: number;
  /** How high they are, a fraction of the frame's height. */
  readonly size: number;
  readonly opacity: number;
}

export const mark: LayerKind<MarkLayer> = {
  standsStill: (before, after) =>
    before.text === after.text &&
    before.placeX === after.placeX &&
    before.placeY === after.placeY &&
    before.size === after.size &&
    before.opacity === after.opacity,
};
