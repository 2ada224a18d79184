import type { LayerKind } from './kind';

/** A colour behind all: where pictures don't fill the frame. */
export interface GroundLayer {
  readonly kind: 'ground';
  /** As CSS writes it. */
  readonly colour: string;
}

export const ground: LayerKind<GroundLayer> = {
  standsStill: (before, after) => before.colour === after.colour,
};
