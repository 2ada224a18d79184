import type { Film } from '../film/film';
import { filmFrameIn, type Span } from '../film/span';
import { isHeardAt } from '../lesson/speed';
import { FILM_FPS, nearestFrame } from '../time/frames';
import { voiceOverOf, type VoiceOver } from './voice-over';
import type { TimeRange } from '../time/ranges';
import { ofTake } from '../time/timeline';
import { ofMedium } from '../lesson/medium';
import type { Take, Track } from '../lesson/take';
import { AT_SPEED, sameRate, stepFrom, type Rate } from '../time/rate';
import type { Us } from '../time/us';

/** Length of the fade at either side of a cut, so that it doesn't click, µs. */
export const FADE_US: Us = 6_000;

/** Over how much of the film a voice fades out where it goes by too fast to be heard, and comes back after it, frames. */
const GOES_FRAMES = 0.4 * FILM_FPS;

/** A part of a take as it is heard: all of a span at its speed, or only its ends where it goes by too fast for that. */
export interface Heard {
  readonly take: Take;
  /** What of the take is heard together. */
  readonly tracks: readonly Track[];
  /** It is spoken over what is heard otherwise. */
  readonly over: boolean;
  /** How fast it is heard. */
  readonly rate: Rate;
  /** Step of that rate's lattice over recorded time that it begins with (`time/rate`): so many frames of heard sound. */
  readonly step: number;
  /** Frame of the film at which it begins, and how many of those it is heard for. */
  readonly filmFrame: number;
  readonly frames: number;
  /** 0: it runs on from what was heard before, or nothing comes after it. */
  readonly fadeInUs: Us;
  readonly fadeOutUs: Us;
}

/** What goes by too fast is heard, at its ends, as it was recorded. */
const heardRate = ({ rate }: Span): Rate => (isHeardAt(rate) ? rate : AT_SPEED);

/** Whether one voice goes on from a span into the next without a break: nothing was cut, and it stays as fast. */
const runsOn = (a: Span, b: Span): boolean =>
  a.take.id === b.take.id && a.endFrame === b.startFrame && sameRate(heardRate(a), heardRate(b));

const toUs = (frames: number): Us => Math.round((frames * 1e6) / FILM_FPS);

/** Frames of the film in which a span is muted, half open, in order. */
const silentIn = (span: Span, muted: readonly TimeRange[]): (readonly [number, number])[] =>
  muted.flatMap(({ startUs, endUs }) => {
    const inside = (us: Us) => Math.min(span.endFrame, Math.max(span.startFrame, nearestFrame(us)));
    const [from, to] = [filmFrameIn(span, inside(startUs)), filmFrameIn(span, inside(endUs))];
    return to > from ? [[from, to] as const] : [];
  });

/** What is left of something heard when some frames of the film are silent. */
const besideSilence = (heard: Heard, silent: readonly (readonly [number, number])[]): Heard[] => {
  const { filmFrame, frames, step, fadeInUs, fadeOutUs } = heard;
  const end = filmFrame + frames;
  const parts: Heard[] = [];
  let from = filmFrame;
  const until = (to: number) => {
    if (to > from) {
      parts.push({
        ...{ ...heard, step: step + from - filmFrame, filmFrame: from, frames: to - from },
        fadeInUs: from === filmFrame ? fadeInUs : FADE_US,
        fadeOutUs: to === end ? fadeOutUs : FADE_US,
      });
    }
  };
  for (const [silentFrom, silentTo] of silent) {
    until(Math.min(end, silentFrom));
    from = Math.max(from, silentTo);
  }
  until(end);
  return parts;
};

/**
 * What is heard of a film, in order. What goes by too fast fades out at the speed it was recorded at, and comes back so; of
 * what is muted nothing is heard.
 */
export const heardOf = (film: Film): Heard[] => {
  const { muted } = film.lesson.decisions;
  const over = voiceOverOf(film);
  const all = film.spans.flatMap((span, index) => soundingIn(film, span, index));
  if (over.length > 0) {
    all.push(...over.map(heardOver));
    all.sort((a, b) => a.filmFrame - b.filmFrame);
  }
  if (muted.length === 0) return all;
  const silent = film.spans.flatMap((span) => silentIn(span, ofTake(muted, span.take.id)));
  let first = 0;
  return all.flatMap((heard) => {
    const [from, end] = [heard.filmFrame, heard.filmFrame + heard.frames];
    while (silent[first] && silent[first]![1] <= from) first++;
    let last = first;
    while (silent[last] && silent[last]![0] < end) last++;
    return besideSilence(heard, silent.slice(first, last));
  });
};

/** Something spoken over a film, by the voice of its take alone. */
const heardOver = ({ take, startFrame, filmFrame, frames }: VoiceOver): Heard => ({
  ...{ take, tracks: take.tracks.filter(({ kind }) => kind === 'voice'), over: true },
  ...{ rate: AT_SPEED, step: startFrame, filmFrame, frames },
  ...{ fadeInUs: FADE_US, fadeOutUs: FADE_US },
});

/** What would be heard of a span if nothing were muted. */
const soundingIn = ({ spans }: Film, span: Span, index: number): Heard[] => {
  const { take, rate, filmFrame, frames, startFrame, endFrame } = span;
  const of = { take, tracks: ofMedium(take.tracks, 'sound'), over: false };
  const [before, after] = [spans[index - 1], spans[index + 1]];
  const fadeInUs = before && !runsOn(before, span) ? FADE_US : 0;
  const fadeOutUs = after && !runsOn(span, after) ? FADE_US : 0;
  if (isHeardAt(rate)) {
    const step = stepFrom(rate, startFrame);
    return [{ ...of, rate, step, filmFrame, frames, fadeInUs, fadeOutUs }];
  }
  const part = Math.floor(Math.min(GOES_FRAMES, frames / 2));
  if (part === 0) return [];
  const ends = { ...of, rate: AT_SPEED, frames: part };
  const atEnd = { step: endFrame - part, filmFrame: filmFrame + frames - part };
  return [
    { ...ends, step: startFrame, filmFrame, fadeInUs, fadeOutUs: toUs(part) },
    { ...ends, ...atEnd, fadeInUs: toUs(part), fadeOutUs },
  ];
};

/** Takes that something is heard of in a film, whether they stand in it or are spoken over it. */
export const takesHeard = (film: Film): ReadonlySet<Take> =>
  new Set([...film.spans.map(({ take }) => take), ...voiceOverOf(film).map(({ take }) => take)]);
