import type { Decisions } from '../edit/decisions';
import type { InkOf } from '../ink/changed-track';
import type { Id } from '../lesson/take';
import type { Us } from '../time/us';
import type { PointerPath, SeenPointerOf } from './path';

/** A press that is heard: when, recorded time, and how loud, 0 to 1. */
export interface Click {
  readonly atUs: Us;
  readonly level: number;
}

/** Presses of a take that are heard in the film, in order. */
export type ClicksOf = (takeId: Id) => readonly Click[];

export const NO_CLICKS: ClicksOf = () => [];

/** How long a click sounds. */
export const CLICK_US = 36_000;
/** Loudest sample of a click at level 1. */
const PEAK = 0.5;
/** Two woody tones that die away, each with its part of the whole; Hz, and seconds to 1/e. */
const TONES = [
  { hertz: 1_450, part: 0.62, diesIn: 0.0042 },
  { hertz: 610, part: 0.38, diesIn: 0.0085 },
] as const;
/** It comes within so long, seconds: nothing that begins at once is soft. */
const COMES_IN = 0.0012;

/** The sound of a click, one channel. @param rate samples a second */
export const clickSamples = (rate: number): Float32Array<ArrayBuffer> => {
  const samples = new Float32Array(Math.round((rate * CLICK_US) / 1e6));
  for (let index = 0; index < samples.length; index++) {
    const at = index / rate;
    const tone = TONES.reduce(
      (sum, { hertz, part, diesIn }) =>
        sum + part * Math.sin(2 * Math.PI * hertz * at) * Math.exp(-at / diesIn),
      0,
    );
    // Ends in silence.
    const end = 1 - index / samples.length;
    samples[index] = tone * Math.min(1, at / COMES_IN) * end;
  }
  const loudest = samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
  return samples.map((one) => (one * PEAK) / loudest);
};

/** The presses that a lesson has heard: those of what was pointed with, and those that were seen on screens. */
export const clicksIn = (
  { pointer, screenPointer }: Pick<Decisions, 'pointer' | 'screenPointer'>,
  inkOf: InkOf,
  seenOf: SeenPointerOf,
): ClicksOf => {
  if (!pointer.clicks && !screenPointer.clicks) return NO_CLICKS;
  const of = (path: PointerPath | null | undefined, level = 0): Click[] =>
    path && level > 0 ? path.presses.map(({ atUs }) => ({ atUs, level })) : [];
  return (takeId) =>
    [
      ...of(inkOf(takeId)?.pointer, pointer.clicks),
      ...of(seenOf(takeId), screenPointer.clicks),
    ].sort((a, b) => a.atUs - b.atUs);
};
