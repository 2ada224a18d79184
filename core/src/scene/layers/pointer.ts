import type { InkColour } from '../../ink/pen';
import type { PointerMark } from '../../pointer/look';
import { sameRect, type Rect } from '../geometry';
import type { LayerKind } from './kind';

/** Where something points, as it is drawn; lengths are fractions of the frame. */
export interface PointerLayer {
  readonly kind: 'pointer';
  readonly mark: PointerMark;
  readonly colour: InkColour;
  readonly x: number;
  readonly y: number;
  /** Across, a fraction of the frame's width. */
  readonly size: number;
  /** How far the ring of a press has gone, 0 to 1; null: there is none. Where it was pressed. */
  readonly ring: { readonly x: number; readonly y: number; readonly part: number } | null;
  /** What it lies on: nothing of it is drawn outside. */
  readonly over: Rect;
  readonly radius: number;
  readonly opacity: number;
}

export const pointer: LayerKind<PointerLayer> = {
  standsStill: (before, after) =>
    before.mark === after.mark &&
    before.colour === after.colour &&
    before.x === after.x &&
    before.y === after.y &&
    before.size === after.size &&
    before.ring?.part === after.ring?.part &&
    sameRect(before.over, after.over) &&
    before.radius === after.radius &&
    before.opacity === after.opacity,
};
