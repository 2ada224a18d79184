import { sameRect, type PictureBox } from '../geometry';
import type { LayerKind } from './kind';

/** What a picture casts on what lies under it. */
export interface ShadowLayer extends Pick<PictureBox, 'to' | 'radius' | 'opacity'> {
  readonly kind: 'shadow';
}

export const shadow: LayerKind<ShadowLayer> = {
  standsStill: (before, after) =>
    sameRect(before.to, after.to) &&
    before.radius === after.radius &&
    before.opacity === after.opacity,
};
