import type { Arrangement } from '../lesson/arrangement';
import type { Lesson } from '../lesson/lesson';
import { surfaceOf, trackOf, type Take } from '../lesson/take';
import { frameToUs, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import { at, freeAround, ofTake } from '../time/timeline';
import type { Us } from '../time/us';
import { countUpTo } from '../time/sorted';
import type { Film } from './film';
import { filmIn, recordedIn, type Span } from './span';

/** A stretch of a span with one arrangement. */
export interface Section {
  readonly span: Span;
  /** Frame of the film where it begins. */
  readonly filmFrame: number;
  readonly frames: number;
  readonly arrangement: Arrangement;
  /** What the film showed just before, when that differs and the change is a soft one. */
  readonly before: Arrangement | null;
  /** Frames from its start over which the soft change runs; 0 when there is none. */
  readonly changeFrames: number;
}

/** An arrangement as far as a take can show it: what has no camera shows its surface, and the reverse. */
export const possibleArrangement = (take: Take, wanted: Arrangement): Arrangement => {
  const hasSurface = surfaceOf(take) !== undefined;
  const hasCamera = trackOf(take, 'camera') !== undefined;
  if (hasSurface && hasCamera) return wanted;
  return { ...wanted, kind: hasCamera ? 'camera' : 'surface' };
};

/** The arrangement of a take at a recorded time. */
export const arrangementAt = (lesson: Lesson, take: Take, takeUs: Us): Arrangement => {
  const stretch = at(lesson.decisions.arranged, take.id, takeUs);
  return possibleArrangement(take, stretch?.arrangement ?? lesson.decisions.resting);
};

/**
 * The stretch of a take around a recorded time that has one arrangement by decision: one that was arranged,
 * or what lies between two such and rests.
 */
export const arrangedAround = (lesson: Lesson, take: Take, takeUs: Us): TimeRange => {
  const arranged = at(lesson.decisions.arranged, take.id, takeUs);
  if (arranged) return arranged;
  const { startUs, endUs } = freeAround(lesson.decisions.arranged, take.id, takeUs);
  return { startUs, endUs: Math.min(endUs, take.durationUs) };
};

/** Whether two arrangements give the same picture: an inset counts only while there is one. */
export const looksAlike = (a: Arrangement, b: Arrangement): boolean => {
  if (a.kind !== b.kind) return false;
  if (a.kind !== 'inset') return true;
  return (
    a.inset.placeX === b.inset.placeX &&
    a.inset.placeY === b.inset.placeY &&
    a.inset.size === b.inset.size &&
    a.inset.shape === b.inset.shape
  );
};

/**
 * Frames of the film, in a span, at which the arrangement may change; the span's start included, in order.
 *
 * @param changes recorded frames of its take, sorted
 */
const bordersIn = (changes: readonly number[], span: Span): number[] => {
  const borders = [span.filmFrame];
  for (let index = countUpTo(changes, span.startFrame); changes[index] !== undefined; index++) {
    if (changes[index]! >= span.endFrame) break;
    borders.push(nearestFrame(filmIn(span, frameToUs(changes[index]!))));
  }
  return borders;
};

/** Frames of a take at which its arrangement changes, in order and each once. */
const changesOf = (lesson: Lesson, takeId: string): number[] => {
  const frames = ofTake(lesson.decisions.arranged, takeId).flatMap((arranged) => [
    nearestFrame(arranged.startUs),
    nearestFrame(arranged.endUs),
  ]);
  return [...new Set(frames)].sort((a, b) => a - b);
};

/** The whole film as sections of one arrangement each, in order. Neighbours in a span that look alike are one. */
export const sectionsOf = (film: Film): Section[] => {
  const { lesson } = film;
  const wantedChange = nearestFrame(lesson.decisions.changeUs);
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
      const middleUs = recordedIn(span, filmFrame + 0.5);
      const arrangement = arrangementAt(lesson, span.take, middleUs);
      const last = sections.at(-1);
      const same = last !== undefined && looksAlike(last.arrangement, arrangement);
      if (!firstOfSpan && same) {
        sections[sections.length - 1] = { ...last, frames: end - last.filmFrame };
        return;
      }
      firstOfSpan = false;
      const soft = last !== undefined && !same && wantedChange > 0;
      sections.push({
        span,
        filmFrame,
        frames: end - filmFrame,
        arrangement,
        before: soft ? possibleArrangement(span.take, last.arrangement) : null,
        changeFrames: soft ? wantedChange : 0,
      });
    });
  }
  // A change can't outlast its section, which is only known once neighbours have been joined.
  return sections.map((section) => ({
    ...section,
    changeFrames: Math.min(section.changeFrames, section.frames),
  }));
};
