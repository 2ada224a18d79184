import { sameRect, type PictureBox } from '../geometry';
import type { LayerKind } from './kind';

/** A thin line round a picture, so that it parts from what lies under it, of whatever colour. */
export interface EdgeLayer extends Pick<PictureBox, 'to' | 'radius' | 'opacity'> {
  readonly kind: 'edge';
}

export const edge: LayerKind<EdgeLayer> = {
  standsStill: (before, after) =>
    sameRect(before.to, after.to) &&
    before.radius === after.radius &&
    before.opacity === after.opacity,
};
