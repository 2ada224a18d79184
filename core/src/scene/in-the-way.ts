import type { Film } from '../film/film';
import { spanAt } from '../film/film';
import { recordedIn } from '../film/span';
import type { InkOf } from '../ink/changed-track';
import { boundsOf } from '../ink/hit';
import { pageAt } from '../ink/ink-track';
import { aspectOf } from '../lesson/layout';
import type { PictureBox, Rect } from './geometry';
import { laidOutAt } from './sources/layout';

/** What lies in a frame of a film that nothing should cover, fractions of the frame. */
export interface InTheWay {
  /** A face beside what is shown; null where there is none, or it fills the frame. */
  readonly face: Rect | null;
  /** What is written, a rectangle a stroke. */
  readonly written: readonly Rect[];
}

/** How much two rectangles share, as a share of the frame; 0: nothing. */
export const shared = (a: Rect, b: Rect): number => {
  const wide = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const high = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  // What has no height of its own, as a line that is underlined, is covered all the same.
  return wide >= 0 && high >= 0 ? (wide + 0.01) * (high + 0.01) : 0;
};

const NOTHING: InTheWay = { face: null, written: [] };

export const inTheWayAt = (film: Film, inkOf: InkOf, frame: number): InTheWay => {
  const span = spanAt(film, frame);
  const laidOut = laidOutAt(film, frame);
  if (!span || !laidOut) return NOTHING;
  const frameAspect = aspectOf(film.lesson.decisions.frame.shape);
  const { surface, camera } = laidOut;
  const seen = (box: PictureBox | null): box is PictureBox => box !== null && box.opacity > 0;
  const face = seen(surface) && seen(camera) ? camera.to : null;
  const ink = inkOf(span.take.id);
  const on = seen(surface) ? surface : seen(camera) ? camera : null;
  if (!ink || !on) return { face, written: [] };
  const { view, strokes } = pageAt(ink, recordedIn(span, frame));
  const wide = on.to.width / on.from.width;
  const left = on.to.x - on.from.x * wide;
  const top = on.to.y - (on.from.y * on.to.height) / on.from.height;
  const high = wide * frameAspect;
  const written = strokes.map((stroke): Rect => {
    const { x, y, width, height } = boundsOf(stroke);
    return {
      x: left + (x - view.x) * view.zoom * wide,
      y: top + (y - view.y) * view.zoom * high,
      width: width * view.zoom * wide,
      height: height * view.zoom * high,
    };
  });
  return { face, written };
};
