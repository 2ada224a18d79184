import type { LayerKind } from './kind';

/** A whole picture that stands over all that lies lower, and goes. */
export interface CrossFadeLayer<L = unknown> {
  readonly kind: 'cross-fade';
  /** What it is made of, the lower ones first. */
  readonly layers: readonly L[];
  readonly opacity: number;
}

export const crossFade: LayerKind<CrossFadeLayer> = {
  // It is there only while it goes.
  standsStill: () => false,
};
