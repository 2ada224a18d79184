import type { Us } from '../time/us';

/**
 * How often somebody has watched each second of a film: a digit a second, from its beginning; 9 stands for nine times and more. An hour
 * has 3,600 signs.
 */
export type WatchedSeconds = string;

/** Longest film that is counted, s: four hours. */
export const MOST_SECONDS = 14_400;
const MOST_TIMES = 9;

/** Seconds of a film, the last one begun. */
export const secondsOf = (filmUs: Us): number =>
  Math.min(MOST_SECONDS, Math.max(1, Math.ceil(filmUs / 1e6)));

/** Seconds that were played one after the other, from one up to another. */
export type Played = readonly [from: number, to: number];

/** Nothing is watched of a film yet. */
export const unwatched = (seconds: number): WatchedSeconds => '0'.repeat(seconds);

/** With what was played now. What lies beyond the film's end is left out. */
export const withPlayed = (watched: WatchedSeconds, played: readonly Played[]): WatchedSeconds => {
  const times = Uint8Array.from(watched, Number);
  for (const [from, to] of played) {
    for (let second = from; second < Math.min(to, times.length); second++) {
      times[second] = Math.min(MOST_TIMES, times[second]! + 1);
    }
  }
  return times.join('');
};

/** The sum of two counts per second. */
export const addedTimes = (one: WatchedSeconds, other: WatchedSeconds): WatchedSeconds =>
  Array.from({ length: Math.max(one.length, other.length) }, (_, second) =>
    Math.min(MOST_TIMES, Number(one[second] ?? 0) + Number(other[second] ?? 0)),
  ).join('');

/** How much of a film was watched at all, 0 to 1; however often, it counts once. */
export const shareWatched = (watched: WatchedSeconds): number =>
  watched.length === 0
    ? 0
    : 1 - [...watched].filter((times) => times === '0').length / watched.length;

/** The last second that was watched, and with it how far somebody has come; null: none. */
export const furthest = (watched: WatchedSeconds): number | null => {
  const at = watched.search(/[^0]0*$/);
  return at < 0 ? null : at;
};

/** By how many people each second of a film was watched, and by how many of them more than once. */
export interface Curve {
  readonly watched: readonly number[];
  readonly again: readonly number[];
}

/** The curve over a film of all who have watched it. Each counts once a second, however often it was. */
export const curveOf = (all: readonly WatchedSeconds[], seconds: number): Curve => {
  const [watched, again] = [new Array<number>(seconds).fill(0), new Array<number>(seconds).fill(0)];
  for (const one of all) {
    for (let second = 0; second < Math.min(seconds, one.length); second++) {
      if (one[second]! > '0') watched[second]!++;
      if (one[second]! > '1') again[second]!++;
    }
  }
  return { watched, again };
};

/** A curve in fewer steps, each as high as the highest second in it: as many as can be told apart by eye. */
export const inSteps = (values: readonly number[], most: number): number[] => {
  if (values.length <= most) return [...values];
  return Array.from({ length: most }, (_, step) => {
    const [from, to] = [step, step + 1].map((at) => Math.round((at * values.length) / most));
    return Math.max(...values.slice(from, to));
  });
};

/** The stretch that most have gone back to, in seconds; null where nobody or hardly anybody has. */
export const mostRepeated = ({ again }: Curve): Played | null => {
  const most = Math.max(0, ...again);
  if (most === 0) return null;
  const at = again.indexOf(most);
  // As long as at least half as many have.
  let [from, to] = [at, at + 1];
  while (from > 0 && again[from - 1]! * 2 >= most) from--;
  while (to < again.length && again[to]! * 2 >= most) to++;
  return [from, to];
};
