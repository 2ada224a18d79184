import { aspectOf } from '../../lesson/arrangement';
import { recordedIn, type Span } from '../../film/span';
import { nearestFrame } from '../../time/frames';
import { at, ofTake } from '../../time/timeline';
import { containedIn, WHOLE } from '../geometry';
import { groundOf } from './ground';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

/** Pages that are shown in place of what was recorded, while the sound goes on. */
export const cutawaySource: ReadSource = ({ spans, lesson: { decisions } }) => {
  const { cutaways, frame } = decisions;
  const frameAspect = aspectOf(frame.shape);
  const bordersIn = ({ take, startFrame, endFrame, filmFrame }: Span) =>
    ofTake(cutaways, take.id)
      .flatMap(({ startUs, endUs }) => [nearestFrame(startUs), nearestFrame(endUs)])
      .filter((one) => one > startFrame && one < endFrame)
      .map((one) => one - startFrame + filmFrame);
  return {
    borders: cutaways.length === 0 ? [] : spans.flatMap(bordersIn),
    at(filmFrame, span) {
      if (cutaways.length === 0) return NOTHING;
      // The middle of the frame, so that rounding to the grid can't pick the neighbour.
      const found = at(cutaways, span.take.id, recordedIn(span, filmFrame + 0.5));
      if (!found) return NOTHING;
      const { of } = found;
      const to = containedIn(WHOLE, of.aspect, frameAspect);
      return {
        layers: [
          ...groundOf(frame),
          { kind: 'page', of, from: WHOLE, to, opacity: 1, clear: false },
        ],
        moving: false,
        covers: true,
      };
    },
  };
};
