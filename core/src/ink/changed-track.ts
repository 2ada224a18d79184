import type { Decisions } from '../edit/decisions';
import type { Lesson } from '../lesson/lesson';
import { trackOf, type Id, type Take } from '../lesson/take';
import type { Us } from '../time/us';
import type { AddedStroke, InkChange } from './change';
import {
  NO_PAGE,
  pageNameAt,
  pointsOf,
  trackOfPages,
  type ChangedInk,
  type InkPoint,
  type InkTrack,
  type Stroke,
} from './ink-track';
import { isShape } from './pen';

const NOTHING: InkTrack = trackOfPages({ strokes: [], pages: [], turns: [], views: [] });

/** A stroke that was added, as if it had been recorded. */
const strokeOfAdded = ({ id, page, pen, text, atUs, samples }: AddedStroke): Stroke => {
  const points = pointsOf(samples, atUs);
  return {
    ...{ id, page: page ?? NO_PAGE, pen, text, beganUs: atUs, endUs: points.at(-1)!.atUs },
    points,
    straightened: isShape(pen.tool) ? [points[0]!, points.at(-1)!] : null,
    ...{ wiped: [], shifts: [] },
  };
};

/** A stroke with what was changed about it. */
export const changedStroke = (stroke: Stroke, change: InkChange): Stroke => {
  const { colour, width, stays, text, x = 0, y = 0, untilUs, gone } = change;
  const laterUs = Math.max(change.laterUs ?? 0, -stroke.beganUs);
  const moved = (points: readonly InkPoint[]): InkPoint[] =>
    points.map((point) => ({
      ...{ atUs: point.atUs + laterUs, pressure: point.pressure },
      ...{ x: point.x + x, y: point.y + y },
    }));
  const inPlace = x === 0 && y === 0 && laterUs === 0;
  const beganUs = stroke.beganUs + laterUs;
  const { pen } = stroke;
  // What would be wiped before it is drawn was wiped with others that it no longer belongs to.
  const stillWiped = stroke.wiped.filter(({ fromUs }) => fromUs > beganUs);
  const until =
    untilUs === null ? [] : [{ fromUs: Math.max(untilUs ?? 0, beganUs), toUs: Infinity }];
  return {
    ...stroke,
    pen: {
      ...pen,
      colour: colour ?? pen.colour,
      width: width ?? pen.width,
      stays: stays ?? pen.stays,
    },
    text: text ?? stroke.text,
    beganUs,
    endUs: stroke.endUs + laterUs,
    points: inPlace ? stroke.points : moved(stroke.points),
    straightened:
      stroke.straightened && !inPlace ? moved(stroke.straightened) : stroke.straightened,
    wiped: gone
      ? [{ fromUs: 0, toUs: Infinity }]
      : untilUs === undefined
        ? laterUs === 0
          ? stroke.wiped
          : stillWiped
        : until,
  };
};

/** On which page a stroke can be seen; null: on any. */
const pageOf = (before: Stroke, after: Stroke): Id | null =>
  before.pen.stays === 'film' || after.pen.stays === 'film' ? null : before.page;

/**
 * What is written on a take as a lesson has it: what was recorded, what was added to it, and what was changed.
 *
 * @param recorded null where nothing was written while it was recorded
 */
export const changedTrack = (
  recorded: InkTrack | null,
  takeId: Id,
  { addedInk, inkChanges }: Pick<Decisions, 'addedInk' | 'inkChanges'>,
): InkTrack | null => {
  const added = addedInk.filter((one) => one.takeId === takeId).map(({ stroke }) => stroke);
  const changes = new Map(
    inkChanges.flatMap((one) => (one.takeId === takeId ? [[one.strokeId, one.change]] : [])),
  );
  if (added.length === 0 && (changes.size === 0 || !recorded)) return recorded;
  const { pages, turns, views, strokes } = recorded ?? NOTHING;
  const marks: ChangedInk[] = added.map((one) => ({
    ...{ fromUs: one.atUs, page: one.pen.stays === 'film' ? null : (one.page ?? NO_PAGE) },
    text: JSON.stringify(one),
  }));
  const all = [...strokes, ...added.map(strokeOfAdded)]
    .map((stroke) => {
      const change = changes.get(stroke.id);
      if (!change) return stroke;
      const after = changedStroke(stroke, change);
      marks.push({
        fromUs: Math.min(stroke.beganUs, after.beganUs),
        page: pageOf(stroke, after),
        text: JSON.stringify([
          stroke.id,
          Object.entries(change).sort(([a], [b]) => (a < b ? -1 : 1)),
        ]),
      });
      return after;
    })
    // What is written later lies above; at the same time, in the order in which it was.
    .sort((a, b) => a.beganUs - b.beganUs);
  return {
    ...trackOfPages({ strokes: all, pages, turns, views }, recorded?.pointer),
    changed: marks,
  };
};

/**
 * What is not as it was recorded about the looks that a track has at some times, as canonical text: equal text and
 * equal records, equal looks. What is changed elsewhere isn't in it.
 */
export const changesShown = (track: InkTrack, looks: readonly Us[]): string[] => {
  const { changed } = track;
  if (changed.length === 0) return [];
  const latest = Math.max(...looks);
  const pages = new Set(looks.map((us) => pageNameAt(track, us)));
  return changed
    .filter(({ fromUs, page }) => fromUs <= latest && (page === null || pages.has(page)))
    .map(({ text }) => text)
    .sort();
};

/** What is written on a take, as a lesson has it; null where there is nothing, or it isn't there (yet). */
export type InkOf = (takeId: Id) => InkTrack | null;

/** Nothing was written. */
export const NO_INK: InkOf = () => null;

/**
 * What is written on the takes of a lesson.
 *
 * @param recorded what was written while a take was recorded, by its track; null where it isn't there (yet)
 */
export const inkOfLesson = (
  { takes, decisions }: Pick<Lesson, 'takes' | 'decisions'>,
  recorded: (trackId: Id) => InkTrack | null,
): InkOf => {
  const known = new Map<Id, InkTrack | null>();
  const read = (take: Take | undefined): InkTrack | null => {
    const track = take && trackOf(take, 'ink');
    const ink = track ? recorded(track.id) : null;
    if (!take || (track && !ink)) return null;
    return changedTrack(ink, take.id, decisions);
  };
  return (takeId) => {
    let track = known.get(takeId);
    if (track === undefined) {
      track = read(takes.find(({ id }) => id === takeId));
      known.set(takeId, track);
    }
    return track;
  };
};
