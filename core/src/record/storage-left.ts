import type { TrackKind } from '../lesson/take';
import { mediumOf } from '../lesson/medium';

/** Bits a second of a picture track, by its kind and size: drawn text needs more than a face. */
export const pictureBitrate = (kind: TrackKind, pixels: number): number =>
  Math.round(Math.min(12e6, Math.max(1.2e6, pixels * (kind === 'surface' ? 4.6 : 4.2))));

/** Bits a second of a sound track. */
export const soundBitrate = (channels: number): number => (channels === 1 ? 96_000 : 160_000);

/** A track about to be recorded. `pixels` is 0 for sound. */
export interface TrackToMeasure {
  readonly kind: TrackKind;
  readonly pixels: number;
}

/** Bytes a second that recording these tracks takes at most. */
export const bytesPerSecond = (tracks: readonly TrackToMeasure[]): number =>
  tracks.reduce(
    (sum, { kind, pixels }) =>
      sum + (mediumOf(kind) === 'picture' ? pictureBitrate(kind, pixels) : soundBitrate(2)) / 8,
    0,
  );

/** Room that is kept free for the rest of the machine, bytes. */
const RESERVE_BYTES = 50e6;

export type StorageVerdict = 'plenty' | 'short' | 'none';

export interface StorageLeft {
  readonly verdict: StorageVerdict;
  /** Whole minutes that can still be recorded; null when neither place could be asked. */
  readonly minutes: number | null;
  /** Which of the two places is the narrower one. */
  readonly where: 'browser' | 'server';
}

/**
 * How long can still be recorded. Footage passes through the browser's store and stays on the server:
 * the narrower of the two counts, because either may have to hold it all.
 *
 * @param browserBytes room in the browser's store; null: unknown
 * @param serverBytes room on the server's disk; null: it can't be asked
 */
export const storageLeft = (
  browserBytes: number | null,
  serverBytes: number | null,
  tracks: readonly TrackToMeasure[],
): StorageLeft => {
  const rate = bytesPerSecond(tracks);
  const minutesOf = (bytes: number | null) =>
    bytes === null || rate === 0
      ? Number.POSITIVE_INFINITY
      : Math.floor(Math.max(0, bytes - RESERVE_BYTES) / rate / 60);
  const browser = minutesOf(browserBytes);
  const server = minutesOf(serverBytes);
  const least = Math.min(browser, server);
  const where = browser <= server ? 'browser' : 'server';
  if (!Number.isFinite(least)) return { verdict: 'plenty', minutes: null, where };
  return { verdict: least < 1 ? 'none' : least < 10 ? 'short' : 'plenty', minutes: least, where };
};
