import type { Id, Take } from '../lesson/take';
import { frameToUs, inFrames } from '../time/frames';
import { frameAtStep, stepFrom, type Rate } from '../time/rate';
import type { Us } from '../time/us';

/**
 * A stretch of one take that is in the film without a break, at one speed. Counted in whole frames of the take's
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

/** Which step of its rate's lattice a frame of the film in a span is; a fraction between two. */
export const stepOf = ({ rate, startFrame, filmFrame }: Span, atFilmFrame: number): number =>
  stepFrom(rate, startFrame) + atFilmFrame - filmFrame;

/**
 * Recorded time that goes by in a span. This, {@link filmIn} and their kin in whole frames below are the only
 * arithmetic between the two.
 *
 * @param filmFrame of the film; a fraction between two
 */
export const recordedIn = (span: Span, filmFrame: number): Us => {
  const { recorded, film } = span.rate;
  return frameToUs((stepOf(span, filmFrame) * recorded) / film);
};

/** Time of the film at which a recorded time of a span is on show. */
export const filmIn = (span: Span, takeUs: Us): Us => {
  const { recorded, film } = span.rate;
  const into = (inFrames(takeUs) * film) / recorded - stepFrom(span.rate, span.startFrame);
  return frameToUs(span.filmFrame + Math.min(span.frames, Math.max(0, into)));
};

/** The recorded frame that a frame of the film shows in a span. */
export const recordedFrameIn = (span: Span, filmFrame: number): number =>
  frameAtStep(span.rate, stepOf(span, filmFrame));

/** The first frame of the film, in a span, that shows a recorded frame or a later one. */
export const filmFrameIn = (span: Span, recordedFrame: number): number =>
  span.filmFrame + stepFrom(span.rate, recordedFrame) - stepFrom(span.rate, span.startFrame);

/** Frames of the film at which some recorded frames of a span's take come: of those that lie inside of it, not at its ends. */
export const filmFramesInside = (span: Span, recordedFrames: readonly number[]): number[] =>
  recordedFrames
    .filter((frame) => frame > span.startFrame && frame < span.endFrame)
    .map((frame) => filmFrameIn(span, frame))
    .filter((frame) => frame > span.filmFrame && frame < span.filmFrame + span.frames);
