import { placedIn, takeOf, type Lesson } from '../lesson/lesson';
import { cardPlaceOf, cardTake, type CardPlace } from '../lesson/title-card';
import type { Placed } from '../lesson/placement';
import type { Id } from '../lesson/take';
import { frameAt, frameToUs, inFrames, nearestFrame } from '../time/frames';
import { rateOf, RECORDED_SPEED } from '../lesson/speed';
import { subtract, type TimeRange } from '../time/ranges';
import { AT_SPEED, stepFrom } from '../time/rate';
import { ofTake, type Laid } from '../time/timeline';
import type { Us } from '../time/us';
import { filmIn, recordedIn, type Span } from './span';

/** The order of kept footage that a lesson comes to. */
export interface Film {
  readonly lesson: Lesson;
  /** What stands in it, in order, kept stretches or not. */
  readonly placed: readonly Placed[];
  readonly spans: readonly Span[];
  readonly frames: number;
  readonly durationUs: Us;
}

/** A place in recorded time. */
export interface RecordedPlace {
  readonly takeId: Id;
  readonly takeUs: Us;
  /** The place in the film that it was met at; without it, the first that the take has. */
  readonly placementId?: Id;
}

/** Divides stretches of a take where they change their speed. Both lists are in order, and are gone through side by side. */
const atSpeeds = (
  kept: readonly TimeRange[],
  speeds: readonly (Laid & { readonly speed: number })[],
): readonly (TimeRange & { readonly speed?: number })[] => {
  if (speeds.length === 0) return kept;
  let next = 0;
  return kept.flatMap(({ startUs, endUs }) => {
    const parts: (TimeRange & { speed: number })[] = [];
    let fromUs = startUs;
    const until = (untilUs: Us, speed: number) => {
      if (untilUs > fromUs) parts.push({ startUs: fromUs, endUs: untilUs, speed });
      fromUs = Math.max(fromUs, untilUs);
    };
    while (speeds[next] && speeds[next]!.endUs <= startUs) next++;
    for (let index = next; speeds[index] && speeds[index]!.startUs < endUs; index++) {
      const stretch = speeds[index]!;
      until(stretch.startUs, RECORDED_SPEED);
      until(Math.min(endUs, stretch.endUs), stretch.speed);
    }
    until(endUs, RECORDED_SPEED);
    return parts;
  });
};

/** Computes the film of a lesson: the kept stretches of its usable takes, in order. */
export const filmOf = (lesson: Lesson): Film => {
  const spans: Span[] = [];
  let filmFrame = 0;
  const order = placedIn(lesson);
  const card = (place: CardPlace) => {
    const wanted = lesson.decisions.titleCards[place];
    if (!wanted) return;
    const take = cardTake(place, wanted);
    const frames = nearestFrame(take.durationUs);
    const still = { startFrame: 0, endFrame: frames, filmFrame, frames, rate: AT_SPEED };
    spans.push({ take, placementId: take.id, ...still });
    filmFrame += frames;
  };
  card('opening');
  for (const placed of order) {
    const take = takeOf(lesson, placed.takeId);
    if (take?.state !== 'ready') continue;
    const kept = {
      startUs: placed.startUs,
      endUs: Math.min(placed.endUs ?? take.durationUs, take.durationUs),
    };
    const cuts = ofTake(lesson.decisions.cuts, take.id);
    const speeds = ofTake(lesson.decisions.speeds, take.id);
    for (const { startUs, endUs, speed = RECORDED_SPEED } of atSpeeds(
      subtract([kept], cuts),
      speeds,
    )) {
      const startFrame = nearestFrame(startUs);
      const endFrame = nearestFrame(endUs);
      const rate = rateOf(speed);
      const frames = stepFrom(rate, endFrame) - stepFrom(rate, startFrame);
      // Not even a frame is left of it; at eight times its speed that takes eight.
      if (frames <= 0) continue;
      spans.push({ take, placementId: placed.id, startFrame, endFrame, filmFrame, frames, rate });
      filmFrame += frames;
    }
  }
  // A film of nothing but cards is none.
  if (spans.every(({ take }) => cardPlaceOf(take))) {
    return { lesson, placed: order, spans: [], frames: 0, durationUs: 0 };
  }
  card('closing');
  return { lesson, placed: order, spans, frames: filmFrame, durationUs: frameToUs(filmFrame) };
};

/** The span that a frame of the film belongs to; undefined before the start and after the end. */
export const spanAt = (film: Film, frame: number): Span | undefined => {
  let low = 0;
  let high = film.spans.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const span = film.spans[middle]!;
    if (frame < span.filmFrame) high = middle - 1;
    else if (frame >= span.filmFrame + span.frames) low = middle + 1;
    else return span;
  }
  return undefined;
};

/** Where a moment of the film was recorded; null outside the film. */
export const recordedAt = (film: Film, filmUs: Us): RecordedPlace | null => {
  const frame = frameAt(filmUs);
  const span = spanAt(film, frame);
  if (!span) return null;
  // The last frame of what goes by faster begins before its end, and would go on past it.
  const lastUs = frameToUs(span.endFrame) - 1;
  const takeUs = Math.min(lastUs, Math.max(0, recordedIn(span, inFrames(filmUs))));
  return { takeId: span.take.id, takeUs, placementId: span.placementId };
};

/** Whether a span belongs to the place in the film that is meant. */
const isAt = (span: Span, { takeId, placementId }: RecordedPlace): boolean =>
  span.take.id === takeId && (placementId === undefined || span.placementId === placementId);

/** Where a recorded moment comes in the film; null when it was cut, trimmed or left out. */
export const filmTimeOf = (film: Film, place: RecordedPlace): Us | null => {
  const frame = frameAt(place.takeUs);
  const span = film.spans.find(
    (candidate) =>
      isAt(candidate, place) && frame >= candidate.startFrame && frame < candidate.endFrame,
  );
  if (!span) return null;
  return filmIn(span, place.takeUs);
};

/** Where the film goes on after a recorded moment, kept or not: its own time, or that of the next kept one. */
export const filmTimeFrom = (film: Film, place: RecordedPlace): Us => {
  const exact = filmTimeOf(film, place);
  if (exact !== null) return exact;
  const own = film.placed.findIndex(
    ({ id, takeId }) =>
      takeId === place.takeId && (place.placementId === undefined || id === place.placementId),
  );
  const indexOf = new Map(film.placed.map(({ id }, index) => [id, index]));
  const frame = frameAt(place.takeUs);
  const next = film.spans.find((span) => {
    const at = indexOf.get(span.placementId)!;
    return at > own || (at === own && span.startFrame > frame);
  });
  return next ? frameToUs(next.filmFrame) : film.durationUs;
};
