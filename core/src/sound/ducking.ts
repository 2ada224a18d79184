import type { Decisions } from '../edit/decisions';
import { trackOf, type Id, type Take } from '../lesson/take';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { fromDbfs } from './level';

/** What the computer plays goes down so long before somebody speaks, and comes up again over so long after, µs. */
const DOWN_US: Us = 250_000;
const UP_US: Us = 600_000;

/** Where somebody speaks in a take, recorded time, in order; none where that isn't known. */
export type SpeechOf = (takeId: Id) => readonly TimeRange[];

export const NO_SPEECH: SpeechOf = () => [];

/** How loud something is at a recorded time. From one to the next it changes in a straight line. */
export interface LoudnessPoint {
  readonly atUs: Us;
  readonly gain: number;
}

/** Whether a take has what the computer played and a voice over it. */
export const hasBoth = (take: Take): boolean =>
  trackOf(take, 'voice') !== undefined && trackOf(take, 'computer-sound') !== undefined;

/** Speech with pauses in which nothing would come up again bridged. */
const bridged = (speech: readonly TimeRange[]): TimeRange[] => {
  const all: TimeRange[] = [];
  for (const { startUs, endUs } of speech) {
    const last = all.at(-1);
    if (last && startUs - last.endUs < DOWN_US + UP_US)
      all[all.length - 1] = { startUs: last.startUs, endUs };
    else all.push({ startUs, endUs });
  }
  return all;
};

/**
 * How far what the computer plays is lowered while somebody speaks over it.
 *
 * @param speech in order
 * @param db by how much
 */
export const duckedUnder = (speech: readonly TimeRange[], db: number): LoudnessPoint[] => {
  if (db <= 0) return [];
  const gain = fromDbfs(-db);
  return bridged(speech).flatMap(({ startUs, endUs }, index) => {
    // From the very beginning it is down already.
    const down = startUs <= DOWN_US && index === 0 ? [] : [{ atUs: startUs - DOWN_US, gain: 1 }];
    const low = [
      { atUs: Math.max(0, startUs), gain },
      { atUs: endUs, gain },
    ];
    return [...down, ...low, { atUs: endUs + UP_US, gain: 1 }];
  });
};

/** How far what the computer plays in a take is lowered; none where it stays as it is. */
export type DuckedOf = (take: Take) => readonly LoudnessPoint[];

/** Asked for each piece of a film, it is found once a take. */
export const duckedIn = (
  { duckingDb }: Pick<Decisions, 'duckingDb'>,
  speechOf: SpeechOf,
): DuckedOf => {
  const known = new Map<Id, readonly LoudnessPoint[]>();
  return (take) => {
    if (duckingDb === 0 || !hasBoth(take)) return [];
    let points = known.get(take.id);
    if (!points) {
      points = duckedUnder(speechOf(take.id), duckingDb);
      known.set(take.id, points);
    }
    return points;
  };
};

/** How loud it is at a time; before the first point as there, after the last too. @param points in order */
export const gainAt = (points: readonly LoudnessPoint[], us: Us): number => {
  const next = points.findIndex(({ atUs }) => atUs > us);
  const after = next < 0 ? undefined : points[next];
  const before = next < 0 ? points.at(-1) : points[next - 1];
  if (!before || !after) return (before ?? after)?.gain ?? 1;
  return (
    before.gain + ((us - before.atUs) / (after.atUs - before.atUs)) * (after.gain - before.gain)
  );
};

/** The points that matter between two times: those in it, and the one on either side. */
export const pointsBetween = (
  points: readonly LoudnessPoint[],
  fromUs: Us,
  toUs: Us,
): readonly LoudnessPoint[] => {
  const first = points.findIndex(({ atUs }) => atUs > fromUs);
  if (first < 0) return points.slice(-1);
  const last = points.findIndex(({ atUs }) => atUs >= toUs);
  return points.slice(Math.max(0, first - 1), last < 0 ? undefined : last + 1);
};
