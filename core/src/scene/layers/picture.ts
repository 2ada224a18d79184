import type { Id } from '../../lesson/take';
import { frameToUs, nearestFrame } from '../../time/frames';
import { sameRate, type Rate } from '../../time/rate';
import type { Us } from '../../time/us';
import { sameRect, type PictureBox } from '../geometry';
import type { LayerKind } from './kind';

/** A picture of a track, lying in the frame. */
export interface PictureLayer extends PictureBox {
  readonly kind: 'picture';
  readonly trackId: Id;
  /** Which picture of the track: the last one that has started by the middle of this frame of recorded time. */
  readonly takeUs: Us;
  /** As in a mirror. */
  readonly mirrored?: true;
  /** Where it doesn't go by as it was recorded: how fast it does, and which step of that rate's lattice this is. */
  readonly speed?: { readonly rate: Rate; readonly step: number };
}

/** Whether one picture comes a frame of the film after another. */
const isNextFrame = (before: PictureLayer, after: PictureLayer): boolean => {
  if (before.speed || after.speed) {
    return (
      before.speed !== undefined &&
      after.speed !== undefined &&
      sameRate(before.speed.rate, after.speed.rate) &&
      after.speed.step === before.speed.step + 1
    );
  }
  const frame = nearestFrame(before.takeUs);
  return before.takeUs === frameToUs(frame) && after.takeUs === frameToUs(frame + 1);
};

export const picture: LayerKind<PictureLayer> = {
  standsStill: (before, after) =>
    before.trackId === after.trackId &&
    sameRect(before.from, after.from) &&
    sameRect(before.to, after.to) &&
    before.radius === after.radius &&
    before.mirrored === after.mirrored &&
    before.opacity === after.opacity &&
    isNextFrame(before, after),
};
