import type { Film } from '../film/film';
import { filmFrameIn, type Span } from '../film/span';
import { isHeardAt } from '../lesson/speed';
import { FILM_FPS, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import { ofTake } from '../time/timeline';
import { AT_SPEED, sameRate, stepFrom, type Rate } from '../time/rate';
import type { Us } from '../time/us';

/** Length of the fade at either side of a cut, so that it doesn't click, µs. */
export const FADE_US: Us = 6_000;

/** Over how much of the film a voice fades out where it goes by too fast to be heard, and comes back after it, frames. */
const GOES_FRAMES = 0.4 * FILM_FPS;

/** A part of a span as it is heard: all of it at its speed, or only its ends where it goes by too fast for that. */
export interface Heard {
  readonly span: Span;
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

/** Frames of the film in which a span is silenced, half open, in order. */
const silentIn = (span: Span, silenced: readonly TimeRange[]): (readonly [number, number])[] =>
  silenced.flatMap(({ startUs, endUs }) => {
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
 * what is silenced nothing is heard.
 */
export const heardOf = (film: Film): Heard[] => {
  const { silenced } = film.lesson.decisions;
  const all = soundingOf(film);
  if (silenced.length === 0) return all;
  const known = new Map<Span, (readonly [number, number])[]>();
  return all.flatMap((heard) => {
    const { span } = heard;
    let silent = known.get(span);
    if (!silent) {
      silent = silentIn(span, ofTake(silenced, span.take.id));
      known.set(span, silent);
    }
    return besideSilence(heard, silent);
  });
};

/** What would be heard if nothing were silenced. */
const soundingOf = ({ spans }: Film): Heard[] =>
  spans.flatMap((span, index): Heard[] => {
    const { rate, filmFrame, frames, startFrame, endFrame } = span;
    const [before, after] = [spans[index - 1], spans[index + 1]];
    const fadeInUs = before && !runsOn(before, span) ? FADE_US : 0;
    const fadeOutUs = after && !runsOn(span, after) ? FADE_US : 0;
    if (isHeardAt(rate)) {
      const step = stepFrom(rate, startFrame);
      return [{ span, rate, step, filmFrame, frames, fadeInUs, fadeOutUs }];
    }
    const part = Math.floor(Math.min(GOES_FRAMES, frames / 2));
    if (part === 0) return [];
    const ends = { span, rate: AT_SPEED, frames: part };
    const atEnd = { step: endFrame - part, filmFrame: filmFrame + frames - part };
    return [
      { ...ends, step: startFrame, filmFrame, fadeInUs, fadeOutUs: toUs(part) },
      { ...ends, ...atEnd, fadeInUs: toUs(part), fadeOutUs },
    ];
  });
