import type { Id } from '../../lesson/take';
import { frameToUs, nearestFrame } from '../../time/frames';
import type { Us } from '../../time/us';
import { sameRect, type PictureBox } from '../geometry';
import type { LayerKind } from './kind';

/** A picture of a track, lying in the frame. */
export interface PictureLayer extends PictureBox {
  readonly kind: 'picture';
  readonly trackId: Id;
  /** Which picture of the track: the last one that has started by the middle of this frame of recorded time. */
  readonly takeUs: Us;
}

/** Whether one recorded time is a frame after another, both on the grid. */
const isNextFrame = (before: Us, after: Us): boolean => {
  const frame = nearestFrame(before);
  return before === frameToUs(frame) && after === frameToUs(frame + 1);
};

export const picture: LayerKind<PictureLayer> = {
  standsStill: (before, after) =>
    before.trackId === after.trackId &&
    sameRect(before.from, after.from) &&
    sameRect(before.to, after.to) &&
    before.radius === after.radius &&
    before.opacity === after.opacity &&
    isNextFrame(before.takeUs, after.takeUs),
};
