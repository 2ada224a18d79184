import type { Id, Take } from '../lesson/take';
import { frameToUs, inFrames, nearestFrame } from '../time/frames';
import type { Us } from '../time/us';

/** How fast recorded time goes by in the film: so many recorded frames in so many of the film. 0 recorded: held. */
export interface Rate {
  readonly recorded: number;
  readonly film: number;
}

export const AT_SPEED: Rate = { recorded: 1, film: 1 };

/**
 * A stretch of one take that is in the film without a break. Counted in whole frames of the take's
 * own grid, so that a cut anywhere never shifts the phase in which later footage is sampled: the
 * same recorded frame makes the same picture wherever it comes to stand.
 */
export interface Span {
  readonly take: Take;
  /** The place in the film that it belongs to. */
  readonly placementId: Id;
  /** First frame kept, on the grid of the take's recorded time. */
  readonly startFrame: number;
  /** First frame no longer kept. */
  readonly endFrame: number;
  /** Frame of the film where it begins. */
  readonly filmFrame: number;
  /** Frames of the film that it is shown for. */
  readonly frames: number;
  readonly rate: Rate;
}

/**
 * Recorded time that is on show in a span. This and {@link filmIn} are the only arithmetic between the two.
 *
 * @param filmFrame of the film; a fraction between two
 */
export const recordedIn = (span: Span, filmFrame: number): Us => {
  const { recorded, film } = span.rate;
  return frameToUs(span.startFrame + ((filmFrame - span.filmFrame) * recorded) / film);
};

/** Time of the film at which a recorded time of a span is on show; of one that is held, its beginning. */
export const filmIn = (span: Span, takeUs: Us): Us => {
  const { recorded, film } = span.rate;
  const into = inFrames(takeUs) - span.startFrame;
  return frameToUs(span.filmFrame + (recorded === 0 ? 0 : (Math.max(0, into) * film) / recorded));
};

/** Frames of the film at which some recorded frames of a span's take come: of those that lie inside of it, not at its ends. */
export const filmFramesInside = (span: Span, recordedFrames: readonly number[]): number[] =>
  recordedFrames
    .filter((frame) => frame > span.startFrame && frame < span.endFrame)
    .map((frame) => nearestFrame(filmIn(span, frameToUs(frame))));
