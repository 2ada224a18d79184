import type { Line } from '../../lesson/line';
import type { LayerKind } from './kind';

/** Words on a band across the frame. */
export interface LineLayer extends Line {
  readonly kind: 'line';
}

export const line: LayerKind<LineLayer> = {
  standsStill: (before, after) => before.text === after.text && before.place === after.place,
};
