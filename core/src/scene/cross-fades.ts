import { cardPlaceOf } from '../lesson/title-card';
import type { Film } from '../film/film';
import type { Span } from '../film/span';
import { nearestFrame } from '../time/frames';
import { countUpTo } from '../time/sorted';
import { ease } from './geometry';
import type { Layer } from './layers';
import type { CrossFadeLayer } from './layers/cross-fade';

/** Where one picture goes over into another. */
interface Join {
  /** Frame of the film at which the second begins, and how many it takes. */
  readonly filmFrame: number;
  readonly frames: number;
  /** What the first is part of. */
  readonly before: Span;
}

/** Where something was cut between two spans, or one take follows on another. Cards come and go at once. */
const isJoin = (before: Span, after: Span): boolean =>
  !cardPlaceOf(before.take) &&
  !cardPlaceOf(after.take) &&
  !(before.take.id === after.take.id && before.endFrame === after.startFrame);

const joinsOf = ({ spans, lesson }: Film): Join[] => {
  const wanted = nearestFrame(lesson.decisions.crossFadeUs);
  if (wanted === 0) return [];
  return spans.flatMap((after, index) => {
    const before = spans[index - 1];
    if (!before || !isJoin(before, after)) return [];
    return [{ filmFrame: after.filmFrame, frames: Math.min(wanted, after.frames), before }];
  });
};

/** The pictures that go over into others in a film: the last one that is kept before a join, standing still. Nothing that was cut is shown. */
export interface CrossFades {
  /** Frames of the film at which one begins, or is over; in order. */
  readonly borders: readonly number[];
  /** What of the picture before lies over a frame of the film. */
  readonly at: (filmFrame: number) => CrossFadeLayer<Layer> | null;
}

/** @param layersOf what a frame of a span shows */
export const readCrossFades = (
  film: Film,
  layersOf: (filmFrame: number, span: Span) => readonly Layer[],
): CrossFades => {
  const joins = joinsOf(film);
  const starts = joins.map(({ filmFrame }) => filmFrame);
  return {
    get borders() {
      return joins.flatMap(({ filmFrame, frames }) => [filmFrame, filmFrame + frames]);
    },
    at(filmFrame) {
      const join = joins[countUpTo(starts, filmFrame) - 1];
      const into = join ? filmFrame - join.filmFrame : 0;
      if (!join || into >= join.frames) return null;
      const { before, frames } = join;
      const layers = layersOf(before.filmFrame + before.frames - 1, before);
      return { kind: 'cross-fade', layers, opacity: 1 - ease((into + 1) / (frames + 1)) };
    },
  };
};
