import type { Act } from '../edit/edit';
import type { Film } from '../film/film';
import { filmIn, recordedIn, type Span } from '../film/span';
import type { InkOf } from '../ink/changed-track';
import { writingIn } from '../ink/ink-track';
import { cardPlaceOf } from '../lesson/title-card';
import { isHeardAt } from '../lesson/speed';
import { trackOf } from '../lesson/take';
import { speechIn } from '../sound/phrases';
import type { LevelLine } from '../sound/level-line';
import { frameAt, frameToUs } from '../time/frames';
import { lengthOf, merge, subtract, type TimeRange } from '../time/ranges';
import { ofTake } from '../time/timeline';
import { formatClock, formatSpoken, type Us } from '../time/us';
import type { Check } from './check';

/** Quiet that is longer than this is dead air: before the first word, after the last one, and in between, µs. */
const MOST = { first: 1_000_000, last: 2_000_000, inside: 3_000_000 };
/** What is left of it when it is cut, at either side of what is said, µs. */
const BREATH_US = 350_000;

/** Whether quiet in a span is nothing that was meant: somebody could be heard in it, and nothing else is. */
const canBeDead = ({ take, rate }: Span, levels: ReadonlyMap<string, LevelLine>): boolean =>
  !cardPlaceOf(take) &&
  isHeardAt(rate) &&
  trackOf(take, 'voice') !== undefined &&
  trackOf(take, 'computer-sound') === undefined &&
  levels.has(take.id);

/**
 * Where nothing goes on in a film, though somebody could speak: nobody does, nothing is written, and it wasn't muted. In film
 * time; the ends are told from the inside.
 */
export const deadAirIn = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  inkOf: InkOf,
): TimeRange[] => {
  const { muted } = film.lesson.decisions;
  const quiet = film.spans.flatMap((span): TimeRange[] => {
    if (!canBeDead(span, levels)) return [];
    const { take, startFrame, endFrame } = span;
    const ink = inkOf(take.id);
    const goesOn = merge(
      [
        ...speechIn(levels.get(take.id)!),
        ...(ink ? writingIn(ink) : []),
        ...ofTake(muted, take.id),
      ].sort((a, b) => a.startUs - b.startUs),
    );
    const kept = { startUs: frameToUs(startFrame), endUs: frameToUs(endFrame) };
    return subtract([kept], goesOn).map(({ startUs, endUs }) => ({
      startUs: filmIn(span, startUs),
      endUs: filmIn(span, endUs),
    }));
  });
  return merge(quiet).filter((range) => {
    if (range.startUs <= 0 && range.endUs >= film.durationUs) return false;
    if (range.startUs <= 0) return lengthOf(range) > MOST.first;
    if (range.endUs >= film.durationUs) return lengthOf(range) > MOST.last;
    return lengthOf(range) > MOST.inside;
  });
};

/** Cuts a stretch of a film, in whatever was recorded there. */
const cutsFor = (film: Film, { startUs, endUs }: TimeRange): Act[] =>
  film.spans.flatMap((span): Act[] => {
    const first = Math.max(span.filmFrame, frameAt(startUs));
    const last = Math.min(span.filmFrame + span.frames, frameAt(endUs));
    if (last <= first || cardPlaceOf(span.take)) return [];
    const [from, to] = [recordedIn(span, first), recordedIn(span, last)];
    return [{ do: 'cut', takeId: span.take.id, startUs: from, endUs: to }];
  });

/** What is cut of dead air: all but a breath beside what is said. */
const toCut = ({ startUs, endUs }: TimeRange, durationUs: Us): TimeRange => ({
  startUs: startUs <= 0 ? 0 : startUs + BREATH_US,
  endUs: endUs >= durationUs ? durationUs : endUs - BREATH_US,
});

/** @param levels level lines of its takes, by take */
export const deadAirCheck = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  inkOf: InkOf,
): Check[] => {
  const dead = deadAirIn(film, levels, inkOf);
  const [first] = dead;
  if (!first) return [];
  const where =
    dead.length > 1
      ? `Nothing is said in ${dead.length} places, first for ${formatSpoken(lengthOf(first))} at ${formatClock(first.startUs)}.`
      : first.startUs <= 0
        ? `It begins with ${formatSpoken(lengthOf(first))} in which nothing is said.`
        : first.endUs >= film.durationUs
          ? `It ends with ${formatSpoken(lengthOf(first))} in which nothing is said.`
          : `Nothing is said for ${formatSpoken(lengthOf(first))} at ${formatClock(first.startUs)}.`;
  const acts = dead.flatMap((range) => cutsFor(film, toCut(range, film.durationUs)));
  return [
    {
      ...{ id: 'dead-air', verdict: 'look', sentence: where, atUs: first.startUs },
      mend: { words: dead.length > 1 ? 'Cut them all' : 'Cut it', acts },
    },
  ];
};
