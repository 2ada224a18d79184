import type { LayerKind } from './kind';

/** A whole picture that stands over all that lies lower, and goes. */
export interface DissolveLayer<L = unknown> {
  readonly kind: 'dissolve';
  /** What it is made of, the lower ones first. */
  readonly layers: readonly L[];
  readonly opacity: number;
}

export const dissolve: LayerKind<DissolveLayer> = {
  // It is there only while it goes.
  standsStill: () => false,
};
