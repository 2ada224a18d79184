import { sameOutline, type Outline } from '../geometry';
import type { LayerKind } from './kind';

/** What a picture casts on what lies under it. */
export interface ShadowLayer extends Outline {
  readonly kind: 'shadow';
}

export const shadow: LayerKind<ShadowLayer> = { standsStill: sameOutline };
