import type { LayerKind } from './kind';

/** A colour behind all: where pictures don't fill the frame. */
export interface GroundLayer {
  readonly kind: 'ground';
  /** As CSS writes it. */
  readonly colour: string;
  /** It goes over into this one, from the top to the bottom. */
  readonly downTo?: string;
}

export const ground: LayerKind<GroundLayer> = {
  standsStill: (before, after) => before.colour === after.colour && before.downTo === after.downTo,
};
