import type { LayerKind } from './kind';

/** A clock that ticks along with recorded time where that goes by too fast for a voice. */
export interface ClockLayer {
  readonly kind: 'clock';
  /** Where its hand points: second of a minute of recorded time, 0 to 59. */
  readonly second: number;
  /** How many times as fast it goes by, in figures. */
  readonly times: string;
  /** Across, in fractions of the frame's shorter side; it stands in the top left corner. */
  readonly size: number;
}

export const clock: LayerKind<ClockLayer> = {
  standsStill: (before, after) =>
    before.second === after.second && before.times === after.times && before.size === after.size,
};
