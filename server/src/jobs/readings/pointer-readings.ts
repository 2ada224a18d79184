import type { Take } from '@under-chalk/core/lesson/take';
import { FINDER_VERSION, screenOf, type PointerState } from '@under-chalk/core/pointer/found';
import type { PointerReading } from './find-pointer';
import { keepReading, readingOf } from './kept-pointer';
import { TrackReadings, type ReadingParts } from './track-readings';

/** Where pointers are in captured screens. */
export class PointerReadings extends TrackReadings<PointerReading> {
  constructor(parts: ReadingParts) {
    super(
      {
        failing: 'pointer can’t be looked for',
        version: FINDER_VERSION,
        tracksOf: (take) => [screenOf(take) ?? []].flat(),
        readingOf,
        keep: keepReading,
      },
      parts,
    );
  }

  /** How it stands with the pointer of a take. */
  async stateOf(take: Take): Promise<PointerState> {
    const track = screenOf(take);
    if (!track || take.state === 'unusable') return { is: 'none' };
    const state = await this.stateOfTrack(take, track);
    if (state.is !== 'found') return state;
    const { of: _of, ...found } = state.reading;
    return { is: 'found', found };
  }
}
