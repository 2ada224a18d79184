import type { Take } from '@under-chalk/core/lesson/take';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import {
  PICTURE_VERSION,
  pictureReadingSchema,
  type PictureReading,
} from '@under-chalk/core/picture/reading';
import * as z from 'zod';
import { keepRead, readKept } from './kept-reading';
import type { KeptPictures } from './read-pictures';
import { TrackReadings, type ReadingParts } from './track-readings';

const keptSchema = pictureReadingSchema.unwrap().extend({ of: z.string() });

/**
 * What the pictures of takes show: what can be read in them, and where they are as they weren't meant. Of takes that were ready before,
 * it is read when somebody asks: not all that was ever recorded is looked at again.
 */
export class PictureReadings extends TrackReadings<KeptPictures> {
  constructor(parts: ReadingParts) {
    super(
      {
        failing: 'pictures can’t be looked through',
        version: PICTURE_VERSION,
        tracksOf: ({ tracks }) => ofMedium(tracks, 'picture'),
        readingOf: (media, track) => readKept(media.pictures(track.id), keptSchema, track.digest),
        keep: (media, track, reading) => keepRead(media, media.pictures(track.id), reading),
      },
      parts,
    );
  }

  /** What is known of a take's pictures, by track; and whether more will be. */
  async readIn(take: Take): Promise<{
    readonly readings: readonly (readonly [trackId: string, reading: PictureReading])[];
    readonly isWhole: boolean;
  }> {
    const readings: [string, PictureReading][] = [];
    let isWhole = true;
    for (const track of ofMedium(take.tracks, 'picture')) {
      const state = await this.stateOfTrack(take, track);
      if (state.is === 'looking') isWhole = false;
      if (state.is !== 'found') continue;
      const { of: _of, ...reading } = state.reading;
      readings.push([track.id, reading]);
    }
    return { readings, isWhole };
  }
}
