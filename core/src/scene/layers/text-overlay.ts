import type { TextOverlay } from '../../lesson/text-overlay';
import type { LayerKind } from './kind';

/** Words on a band across the frame. */
export interface TextOverlayLayer extends TextOverlay {
  readonly kind: 'text-overlay';
}

export const textOverlay: LayerKind<TextOverlayLayer> = {
  standsStill: (before, after) => before.text === after.text && before.place === after.place,
};
