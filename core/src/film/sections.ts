import type { Layout } from '../lesson/layout';
import type { Lesson } from '../lesson/lesson';
import { cardPlaceOf } from '../lesson/title-card';
import { sameCrop } from '../lesson/crop';
import { PACES, type CloseUp } from '../lesson/close-up';
import { surfaceOf, trackOf, type Take } from '../lesson/take';
import { frameToUs, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import { at, freeAround, ofTake } from '../time/timeline';
import type { Us } from '../time/us';
import { countUpTo } from '../time/sorted';
import type { Film } from './film';
import { filmFramesInside, recordedFrameIn, type Span } from './span';

/** What was decided about how the pictures of a take are shown. */
export interface Framing {
  readonly layout: Layout;
  readonly closeUp: CloseUp | null;
}

/** A stretch of a span with one layout and one close-up, or none. */
export interface Section extends Framing {
  readonly span: Span;
  /** Frame of the film where it begins. */
  readonly filmFrame: number;
  readonly frames: number;
  /** What the film showed just before, when that differs and the change is a soft one. */
  readonly before: Framing | null;
  /** Frames from its start over which the soft change runs; 0 when there is none. */
  readonly changeFrames: number;
}

/** A layout as far as a take can show it: what has no camera shows its surface, and the reverse. */
export const possibleLayout = (take: Take, wanted: Layout): Layout => {
  const hasSurface = surfaceOf(take) !== undefined;
  const hasCamera = trackOf(take, 'camera') !== undefined;
  if (hasSurface && hasCamera) return wanted;
  return { ...wanted, kind: hasCamera ? 'camera' : 'surface' };
};

/** The layout of a take at a recorded time. */
export const layoutAt = (lesson: Lesson, take: Take, takeUs: Us): Layout => {
  const stretch = at(lesson.decisions.layouts, take.id, takeUs);
  return possibleLayout(take, stretch?.layout ?? lesson.decisions.defaultLayout);
};

/** The close-up of a take at a recorded time; null: it is seen whole. */
export const closeUpAt = (lesson: Lesson, take: Take, takeUs: Us): CloseUp | null =>
  at(lesson.decisions.closeUps, take.id, takeUs)?.closeUp ?? null;

/**
 * The stretch of a take around a recorded time that has one layout by decision: one that was chosen,
 * or what lies between two such.
 */
export const arrangedAround = (lesson: Lesson, take: Take, takeUs: Us): TimeRange => {
  const chosen = at(lesson.decisions.layouts, take.id, takeUs);
  if (chosen) return chosen;
  const { startUs, endUs } = freeAround(lesson.decisions.layouts, take.id, takeUs);
  return { startUs, endUs: Math.min(endUs, take.durationUs) };
};

/** Whether two layouts give the same picture: an inset counts only while there is one. */
export const looksAlike = (a: Layout, b: Layout): boolean => {
  if (a.kind !== b.kind) return false;
  if (a.kind !== 'inset') return true;
  return (
    a.inset.placeX === b.inset.placeX &&
    a.inset.placeY === b.inset.placeY &&
    a.inset.size === b.inset.size &&
    a.inset.shape === b.inset.shape &&
    a.inset.edge === b.inset.edge
  );
};

const samePart = (a: CloseUp | null, b: CloseUp | null): boolean =>
  a === b || (a !== null && b !== null && sameCrop(a.part, b.part));

/** How long it takes from one close-up to another, or to none and back: as the one says that is come to, or come from. */
const paceOf = (before: CloseUp | null, after: CloseUp | null): Us =>
  PACES[(after ?? before)!.pace];

/**
 * Frames of the film, in a span, at which the framing may change; the span's start included, in order.
 *
 * @param changes recorded frames of its take, sorted
 */
const bordersIn = (changes: readonly number[], span: Span): number[] => {
  const inside: number[] = [];
  for (let index = countUpTo(changes, span.startFrame); changes[index] !== undefined; index++) {
    if (changes[index]! >= span.endFrame) break;
    inside.push(changes[index]!);
  }
  // Two that lie close together can come in the same frame of what goes by faster.
  return [...new Set([span.filmFrame, ...filmFramesInside(span, inside)])];
};

/** Frames of a take at which its framing may change, in order and each once. */
const changesOf = ({ decisions: { layouts, closeUps } }: Lesson, takeId: string): number[] => {
  const stretches = [...ofTake(layouts, takeId), ...ofTake(closeUps, takeId)];
  const frames = stretches.flatMap(({ startUs, endUs }) => [
    nearestFrame(startUs),
    nearestFrame(endUs),
  ]);
  return [...new Set(frames)].sort((a, b) => a - b);
};

/** The whole film as sections of one framing each, in order. Neighbours in a span that look alike are one. */
export const sectionsOf = (film: Film): Section[] => {
  const { lesson } = film;
  const wantedChange = nearestFrame(lesson.decisions.layoutTransitionUs);
  const sections: Section[] = [];
  const changes = new Map<string, number[]>();
  for (const span of film.spans) {
    const { id } = span.take;
    if (!changes.has(id)) changes.set(id, changesOf(lesson, id));
    const borders = bordersIn(changes.get(id)!, span);
    let firstOfSpan = true;
    borders.forEach((filmFrame, index) => {
      const end = borders[index + 1] ?? span.filmFrame + span.frames;
      // The middle of the first frame, so that rounding to the grid can't pick the neighbour.
      const middleUs = frameToUs(recordedFrameIn(span, filmFrame) + 0.5);
      const layout = layoutAt(lesson, span.take, middleUs);
      const closeUp = closeUpAt(lesson, span.take, middleUs);
      const previous = sections.at(-1);
      // Nothing changes softly from a card, or to one.
      const breaks = previous && (cardPlaceOf(previous.span.take) || cardPlaceOf(span.take));
      const last = breaks ? undefined : previous;
      const same = last !== undefined && looksAlike(last.layout, layout);
      // Another take's close-up is of another surface: there is no way from the one to the other.
      const before = last?.span.take.id === id ? last.closeUp : closeUp;
      const sameCloseUp = samePart(before, closeUp);
      if (!firstOfSpan && same && sameCloseUp) {
        sections[sections.length - 1] = { ...last, frames: end - last.filmFrame };
        return;
      }
      firstOfSpan = false;
      const changeFrames = Math.max(
        last === undefined || same ? 0 : wantedChange,
        sameCloseUp ? 0 : nearestFrame(paceOf(before, closeUp)),
      );
      const soft = last !== undefined && changeFrames > 0;
      sections.push({
        span,
        filmFrame,
        frames: end - filmFrame,
        layout,
        closeUp,
        before: soft ? { layout: possibleLayout(span.take, last.layout), closeUp: before } : null,
        changeFrames,
      });
    });
  }
  // A change can't outlast its section, which is only known once neighbours have been joined.
  return sections.map((section) => ({
    ...section,
    changeFrames: Math.min(section.changeFrames, section.frames),
  }));
};
