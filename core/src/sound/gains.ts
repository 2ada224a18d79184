import * as z from 'zod';
import type { Stretch } from '../lesson/stretch';
import { ofTake, type Timeline } from '../time/timeline';
import type { Us } from '../time/us';
import { fromDbfs } from './level';
import type { LoudnessPoint } from './ducking';

/** What can be louder or quieter by itself. */
export const gainKindSchema = z.enum(['voice', 'computer-sound']);
export type GainKind = z.infer<typeof gainKindSchema>;

/** From here on nothing is heard of it, dB. */
export const NOT_HEARD_DB = -60;

/** By how much it is louder, dB. */
export const changedDbSchema = z.number().int().min(NOT_HEARD_DB).max(12);

/** By how much something is louder, in words. */
export const dbInWords = (db: number): string => {
  if (db <= NOT_HEARD_DB) return 'silent';
  const much = Math.abs(db) >= 9 ? 'much ' : Math.abs(db) <= 4 ? 'a little ' : '';
  return `${much}${db < 0 ? 'quieter' : 'louder'}`;
};

/** Over so long it goes from one loudness to the next, on either side of a border, µs. */
const HALF_CHANGE_US: Us = 10_000;

const factorOf = (db: number): number => (db <= NOT_HEARD_DB ? 0 : fromDbfs(db));

/** How loud a track is over its take, by the stretches in which it is louder or quieter; none where it stays as it is. */
export const changedOver = (
  levels: Timeline<Stretch & { readonly db: number }>,
  takeId: string,
): LoudnessPoint[] => {
  const points: LoudnessPoint[] = [];
  const change = (atUs: Us, from: number, to: number) => {
    const least = points.at(-1)?.atUs ?? Number.NEGATIVE_INFINITY;
    const begins = Math.max(least, atUs - HALF_CHANGE_US);
    points.push({ atUs: begins, gain: from });
    points.push({ atUs: Math.max(begins, atUs + HALF_CHANGE_US), gain: to });
  };
  let [now, untilUs] = [1, Number.NEGATIVE_INFINITY];
  for (const { startUs, endUs, db } of ofTake(levels, takeId)) {
    if (now !== 1 && untilUs < startUs) {
      change(untilUs, now, 1);
      now = 1;
    }
    const gain = factorOf(db);
    // From the very beginning it is so already.
    if (startUs <= HALF_CHANGE_US) points.push({ atUs: 0, gain });
    else change(startUs, now, gain);
    [now, untilUs] = [gain, endUs];
  }
  if (now !== 1) change(untilUs, now, 1);
  return points;
};
