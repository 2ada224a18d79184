import type { Take, Track, TrackKind } from './take';

/** What a track is made of: how it is processed, measured and read follows from it, whatever it shows. */
export type Medium = 'picture' | 'sound' | 'events';

const MEDIUM_OF: { readonly [Kind in TrackKind]: Medium } = {
  surface: 'picture',
  camera: 'picture',
  voice: 'sound',
  'computer-sound': 'sound',
  ink: 'events',
};

export const mediumOf = (kind: TrackKind): Medium => MEDIUM_OF[kind];

/** Those of some tracks that are of a medium. */
export const ofMedium = (tracks: readonly Track[], medium: Medium): Track[] =>
  tracks.filter(({ kind }) => mediumOf(kind) === medium);

/** Whether there is anything to be seen of a take. */
export const isSeen = ({ tracks }: Pick<Take, 'tracks'>): boolean =>
  tracks.some(({ kind }) => mediumOf(kind) !== 'sound');
