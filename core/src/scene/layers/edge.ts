import { sameOutline, type Outline } from '../geometry';
import type { LayerKind } from './kind';

/** A thin line round a picture, so that it parts from what lies under it, of whatever colour. */
export interface EdgeLayer extends Outline {
  readonly kind: 'edge';
}

export const edge: LayerKind<EdgeLayer> = { standsStill: sameOutline };
