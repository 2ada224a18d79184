import type { Track } from '@under-chalk/core/lesson/take';
import { BLOCK } from '@under-chalk/core/pointer/finder/changes';
import { PointerFinder } from '@under-chalk/core/pointer/finder/finder';
import type { FoundPointer } from '@under-chalk/core/pointer/found';
import { FILM_FPS, frameToUs } from '@under-chalk/core/time/frames';
import { US_PER_SECOND, type Us } from '@under-chalk/core/time/us';
import { framesFilter, picturesFrom, type MediaFile } from '@under-chalk/render';
import { eachPicture } from './each-picture';

/** Every so many pictures of a film one is looked at; where the pointer was in between is worked out. */
const EVERY = 2;
/** Wider pictures are made smaller first: a pointer is still to be seen in them. */
const MOST_WIDE = 1_920;
/** What a track has come to be named by: another digest, other pictures. */
export interface PointerReading extends FoundPointer {
  readonly of: string;
}

/** It was found late when nothing is known of so much before. */
const LATE_US = 1_000_000;

/** What was found in a track up to a place, and what was found after it. */
const joined = (first: FoundPointer, then: FoundPointer, durationUs: Us): FoundPointer => {
  const runs = [...first.runs, ...then.runs];
  const sureUs = runs.reduce((sum, { moves, untilUs }) => sum + untilUs - moves[0]!.atUs, 0);
  return {
    ...{ version: then.version, runs },
    presses: [...first.presses, ...then.presses],
    sureShare: Math.min(1, sureUs / durationUs),
  };
};

const upTo = (value: number) => Math.ceil(value / BLOCK) * BLOCK;

/** How a track's pictures are looked at: their size as they are shown, and with what is laid round it. */
interface Looked {
  readonly shownWide: number;
  readonly shownHigh: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

const lookedAt = ({ widthPx, heightPx }: Track): Looked => {
  const shrunk = Math.min(1, MOST_WIDE / widthPx);
  const even = (px: number) => Math.max(2, Math.round((px * shrunk) / 2) * 2);
  const [shownWide, shownHigh] = [even(widthPx), even(heightPx)];
  return { shownWide, shownHigh, widthPx: upTo(shownWide), heightPx: upTo(shownHigh) };
};

/** Shows a finder a track's pictures, from the first up to a frame. */
const show = async (
  finder: PointerFinder,
  media: MediaFile,
  track: Track,
  frames: number,
  onFrame: (frame: number) => void,
  signal: AbortSignal | undefined,
): Promise<void> => {
  const { shownWide, shownHigh, widthPx, heightPx } = lookedAt(track);
  const from = picturesFrom(media, track.durationUs, 0);
  const filters = [
    framesFilter(from, frames),
    `framestep=${EVERY}`,
    // The size is given so that a stream which changes it midway can't shift the bytes.
    ...[`scale=${shownWide}:${shownHigh}`, 'format=yuv420p'],
    ...(widthPx !== shownWide || heightPx !== shownHigh ? [`pad=${widthPx}:${heightPx}`] : []),
    // Brightness as it is: to make it grey would cost a pass over each picture.
    'extractplanes=y',
  ];
  const bytes = widthPx * heightPx;
  await eachPicture(
    { media, durationUs: track.durationUs, filters, bytes },
    (luma, index) => {
      finder.next(luma, frameToUs(index * EVERY));
      onFrame((index + 1) * EVERY);
    },
    signal,
  );
};

/**
 * Looks for the pointer in a track of pictures, from its first to its last; and where it was found late once more up to
 * there, by what has been learnt of it.
 *
 * @param onProgress told how much has been looked at, 0 to 1
 * @param signal ends it
 * @throws FfmpegError, FfmpegTimeout when the pictures can't be read
 */
export const findPointer = async (
  media: MediaFile,
  track: Track,
  onProgress: (share: number) => void = () => undefined,
  signal?: AbortSignal,
): Promise<PointerReading> => {
  const frames = Math.max(1, Math.floor((track.durationUs * FILM_FPS) / US_PER_SECOND));
  const { widthPx, heightPx, shownWide } = lookedAt(track);
  const finder = new PointerFinder(widthPx, heightPx);
  const tell = (frame: number) => {
    if (frame % FILM_FPS === 0) onProgress(Math.min(1, frame / frames));
  };
  await show(finder, media, track, frames, tell, signal);
  let found = finder.finish(track.durationUs);
  const sinceUs = found.runs[0]?.moves[0]!.atUs ?? 0;
  if (sinceUs > LATE_US) {
    const again = new PointerFinder(widthPx, heightPx, finder.known);
    const upToFrame = Math.floor((sinceUs * FILM_FPS) / US_PER_SECOND);
    await show(again, media, track, upToFrame, () => undefined, signal);
    found = joined(again.finish(sinceUs), found, track.durationUs);
  }
  // Places are told in widths of the picture, and not of what was laid round it.
  const wider = widthPx / shownWide;
  const placed = <P extends { readonly x: number; readonly y: number }>(place: P): P => ({
    ...place,
    x: Math.min(1, place.x * wider),
    y: place.y * wider,
  });
  return {
    ...found,
    of: track.digest,
    runs: found.runs.map((run) => ({ ...run, moves: run.moves.map(placed) })),
    presses: found.presses.map(placed),
  };
};
