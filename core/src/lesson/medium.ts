import type { Track, TrackKind } from './take';

/** What a track is made of: how it is settled, measured and read follows from it, whatever it shows. */
export type Medium = 'picture' | 'sound';

const MEDIUM_OF: { readonly [Kind in TrackKind]: Medium } = {
  surface: 'picture',
  camera: 'picture',
  voice: 'sound',
  'computer-sound': 'sound',
};

export const mediumOf = (kind: TrackKind): Medium => MEDIUM_OF[kind];

/** Those of some tracks that are of a medium. */
export const ofMedium = (tracks: readonly Track[], medium: Medium): Track[] =>
  tracks.filter(({ kind }) => mediumOf(kind) === medium);
