import type { Film } from '../../film/film';
import { filmFramesInside, recordedFrameIn, type Span } from '../../film/span';
import { frameToUs, nearestFrame } from '../../time/frames';
import { at, ofTake, type Laid, type Timeline } from '../../time/timeline';

/** Frames of a film at which stretches of recorded time begin or end, inside of what is kept. */
export const bordersOf = ({ spans }: Film, timeline: Timeline<Laid>): number[] =>
  timeline.length === 0
    ? []
    : spans.flatMap((span) =>
        filmFramesInside(
          span,
          ofTake(timeline, span.take.id).flatMap(({ startUs, endUs }) => [
            nearestFrame(startUs),
            nearestFrame(endUs),
          ]),
        ),
      );

/** The stretch that a frame of a film lies in. */
export const stretchAt = <S extends Laid>(
  timeline: Timeline<S>,
  span: Span,
  filmFrame: number,
): S | undefined =>
  timeline.length === 0
    ? undefined
    : // The middle of the frame, so that rounding to the grid can't pick the neighbour.
      at(timeline, span.take.id, frameToUs(recordedFrameIn(span, filmFrame) + 0.5));
