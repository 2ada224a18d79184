import type { Film } from '../film/film';
import type { Span } from '../film/span';
import { isHeardAt } from '../lesson/speed';
import { FILM_FPS } from '../time/frames';
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

/** What is heard of a film, in order. What goes by too fast fades out at the speed it was recorded at, and comes back so. */
export const heardOf = ({ spans }: Film): Heard[] =>
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
