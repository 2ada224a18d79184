import type { Act } from '../edit/edit';
import { spanAt, type Film } from '../film/film';
import { layoutAt, closeUpAt } from '../film/sections';
import { recordedIn } from '../film/span';
import type { InkOf } from '../ink/changed-track';
import { LEAST_INSET, type Layout } from '../lesson/layout';
import { framed } from '../scene/framed';
import type { Rect } from '../scene/geometry';
import { inTheWayAt, shared } from '../scene/in-the-way';
import { FILM_FPS, frameToUs } from '../time/frames';
import { formatClock } from '../time/us';
import type { Check } from './check';

/** It is looked at this often, frames. */
const STEP = FILM_FPS / 2;
/** What is written lies under a face from this share of the frame on. */
const LEAST = 0.004;
/** A face that finds no room is made smaller by so much. */
const SMALLER = 0.6;
/** A face moves away this long before, and stays away this long after, µs. */
const MARGIN_US = 700_000;

const CORNERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

const covered = (face: Rect, written: readonly Rect[]): number =>
  written.reduce((sum, stroke) => sum + shared(face, stroke), 0);

/** A stretch of a span in which the face covers what is written, in frames of the film. */
interface Covered {
  readonly first: number;
  readonly last: number;
  readonly layout: Layout;
  /** All that is written in it. */
  readonly written: readonly Rect[];
}

/** Writing grows until a page is turned or strokes are erased; what was there before counts too. */
const added = (before: readonly Rect[], now: readonly Rect[]): readonly Rect[] => {
  const isThere = (rect: Rect) =>
    now.some(
      ({ x, y, width, height }) =>
        x === rect.x && y === rect.y && width === rect.width && height === rect.height,
    );
  const gone = now.length > before.length ? [] : before.filter((rect) => !isThere(rect));
  return [...gone, ...now];
};

const coveredIn = (film: Film, inkOf: InkOf): Covered[] => {
  const found: Covered[] = [];
  for (let frame = 0; frame < film.frames; frame += STEP) {
    const span = spanAt(film, frame)!;
    if (!inkOf(span.take.id)) continue;
    const layout = layoutAt(film.lesson, span.take, recordedIn(span, frame));
    // Told first: what is written costs more to find.
    if (layout.kind !== 'inset') continue;
    const { face, written } = inTheWayAt(film, inkOf, frame);
    if (!face || covered(face, written) < LEAST) continue;
    const before = found.at(-1);
    const goesOn =
      before &&
      before.last + STEP >= frame &&
      before.layout === layout &&
      spanAt(film, before.last) === span;
    if (goesOn)
      found[found.length - 1] = {
        ...{ ...before, last: frame },
        written: added(before.written, written),
      };
    else found.push({ first: frame, last: frame, layout, written });
  }
  return found;
};

/**
 * Moves the camera to a corner where it covers no writing, for as long as it would cover some: at its own size, else smaller. Where no
 * corner is free the camera is hidden.
 */
const movedAway = (film: Film, { first, last, layout, written }: Covered): Act => {
  const span = spanAt(film, first)!;
  const { take } = span;
  const closeUp = closeUpAt(film.lesson, take, recordedIn(span, last));
  const covers = (moved: Layout) => {
    const { camera } = framed(film.lesson, take, { layout: moved, closeUp });
    return camera ? covered(camera.to, written) : 0;
  };
  const inCorners = (size: number): Layout[] =>
    CORNERS.map(([placeX, placeY]) => ({
      ...layout,
      inset: { ...layout.inset, placeX, placeY, size },
    })).sort((one, other) => covers(one) - covers(other));
  const { size } = layout.inset;
  const smaller = Math.max(LEAST_INSET, size * SMALLER);
  const alone: Layout = { ...layout, kind: 'surface' };
  const moved =
    [...inCorners(size), ...inCorners(smaller)].find((one) => covers(one) < LEAST) ?? alone;
  const startUs = Math.max(0, recordedIn(span, first) - MARGIN_US);
  const endUs = Math.min(take.durationUs, recordedIn(span, last) + MARGIN_US);
  return { do: 'set-layout', takeId: take.id, startUs, endUs, layout: moved };
};

const hides = (act: Act): boolean => act.do === 'set-layout' && act.layout.kind === 'surface';

/** Whether a face covers what is written. */
export const faceCheck = (film: Film, inkOf: InkOf): Check[] => {
  const all = coveredIn(film, inkOf);
  const [first] = all;
  if (!first) return [];
  const atUs = frameToUs(first.first);
  const acts = all.map((one) => movedAway(film, one));
  const sentence = `The face covers what is written, first at ${formatClock(atUs)}.`;
  return [
    {
      ...{ id: 'face', verdict: 'look', sentence, atUs },
      mend: {
        words: acts.every(hides) ? 'Hide it there' : 'Move it away there',
        acts,
      },
    },
  ];
};
