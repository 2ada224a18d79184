import type { Arrangement } from '../lesson/arrangement';
import type { Lesson } from '../lesson/lesson';
import { trackOf, type Take } from '../lesson/take';
import { frameToUs, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import type { Film, Span } from './film';

/** A stretch of a span with one arrangement. */
export interface Section {
  readonly take: Take;
  /** On the take's grid of frames. */
  readonly startFrame: number;
  readonly endFrame: number;
  readonly filmFrame: number;
  readonly arrangement: Arrangement;
  /** What the film showed just before, when that differs and the change is a soft one. */
  readonly before: Arrangement | null;
  /** Frames from its start over which the soft change runs; 0 when there is none. */
  readonly changeFrames: number;
}

/** An arrangement as far as a take can show it: what has no camera shows its surface, and the reverse. */
export const possibleArrangement = (take: Take, wanted: Arrangement): Arrangement => {
  const hasSurface = trackOf(take, 'surface') !== undefined;
  const hasCamera = trackOf(take, 'camera') !== undefined;
  if (hasSurface && hasCamera) return wanted;
  return { ...wanted, kind: hasCamera ? 'camera' : 'surface' };
};

/** The arrangement of a take at a recorded time. */
export const arrangementAt = (lesson: Lesson, take: Take, takeUs: Us): Arrangement => {
  const stretch = lesson.decisions.arranged.find(
    (arranged) =>
      arranged.takeId === take.id && takeUs >= arranged.startUs && takeUs < arranged.endUs,
  );
  return possibleArrangement(take, stretch?.arrangement ?? lesson.decisions.resting);
};

/**
 * The stretch of a take around a recorded time that has one arrangement by decision: one that was arranged,
 * or what lies between two such and rests.
 */
export const arrangedAround = (lesson: Lesson, take: Take, takeUs: Us): TimeRange => {
  let startUs = 0;
  let endUs = take.durationUs;
  for (const arranged of lesson.decisions.arranged) {
    if (arranged.takeId !== take.id) continue;
    if (takeUs >= arranged.startUs && takeUs < arranged.endUs) return arranged;
    if (arranged.endUs <= takeUs) startUs = Math.max(startUs, arranged.endUs);
    else endUs = Math.min(endUs, arranged.startUs);
  }
  return { startUs, endUs };
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

/** Frames of the span at which the arrangement may change, its start included, in order. */
const bordersIn = (lesson: Lesson, span: Span): number[] => {
  const borders = lesson.decisions.arranged
    .filter((arranged) => arranged.takeId === span.take.id)
    .flatMap((arranged) => [nearestFrame(arranged.startUs), nearestFrame(arranged.endUs)])
    .filter((frame) => frame > span.startFrame && frame < span.endFrame);
  return [...new Set([span.startFrame, ...borders])].sort((a, b) => a - b);
};

/** The whole film as sections of one arrangement each, in order. Neighbours in a span that look alike are one. */
export const sectionsOf = (film: Film): Section[] => {
  const { lesson } = film;
  const wantedChange = nearestFrame(lesson.decisions.changeUs);
  const sections: Section[] = [];
  for (const span of film.spans) {
    const borders = bordersIn(lesson, span);
    let firstOfSpan = true;
    borders.forEach((startFrame, index) => {
      const endFrame = borders[index + 1] ?? span.endFrame;
      // The middle of the first frame, so that rounding to the grid can't pick the neighbour.
      const middleUs = Math.round((frameToUs(startFrame) + frameToUs(startFrame + 1)) / 2);
      const arrangement = arrangementAt(lesson, span.take, middleUs);
      const last = sections.at(-1);
      const same = last !== undefined && looksAlike(last.arrangement, arrangement);
      if (!firstOfSpan && same) {
        sections[sections.length - 1] = { ...last, endFrame };
        return;
      }
      firstOfSpan = false;
      const soft = last !== undefined && !same && wantedChange > 0;
      sections.push({
        take: span.take,
        startFrame,
        endFrame,
        filmFrame: span.filmFrame + startFrame - span.startFrame,
        arrangement,
        before: soft ? possibleArrangement(span.take, last.arrangement) : null,
        changeFrames: soft ? wantedChange : 0,
      });
    });
  }
  // A change can't outlast its section, which is only known once neighbours have been joined.
  return sections.map((section) => ({
    ...section,
    changeFrames: Math.min(section.changeFrames, section.endFrame - section.startFrame),
  }));
};
