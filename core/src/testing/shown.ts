import { spanAt, type Film } from '../film/film';
import { recordedFrameIn } from '../film/span';

/** Every frame of a film, with the recorded frame that it shows. For tests. */
export const shownIn = (film: Film): { takeId: string; placementId: string; frame: number }[] =>
  Array.from({ length: film.frames }, (_, filmFrame) => {
    const span = spanAt(film, filmFrame)!;
    const frame = recordedFrameIn(span, filmFrame);
    return { takeId: span.take.id, placementId: span.placementId, frame };
  });
