import { fromSeconds, type Us } from '../time/us';
import { phrasesOf } from './phrases';
import type { LevelLine } from './level-line';

/** How far back a teacher can want to go who says a phrase again, µs. */
export const REACH_US: Us = fromSeconds(20);
/** A phrase that has only just begun is not the one to say again. */
const JUST_BEGUN_US = fromSeconds(1.2);

/**
 * Where to go back to, to say the last phrase again: the pause before it. With no pause in reach, a few
 * seconds back.
 *
 * @param line levels of the voice, up to now
 * @param nowUs recorded time, µs
 * @returns recorded time to end at, µs
 */
export const pauseToGoBackTo = (line: LevelLine, nowUs: Us): Us => {
  const phrases = phrasesOf(line, nowUs).filter((phrase) => phrase.kind === 'speech');
  const last = phrases.at(-1);
  if (!last) return Math.max(0, nowUs - fromSeconds(3));
  const begun = nowUs - last.startUs < JUST_BEGUN_US ? (phrases.at(-2) ?? last) : last;
  const fromUs = nowUs - begun.startUs > REACH_US ? nowUs - fromSeconds(5) : begun.startUs;
  return Math.max(0, Math.round(fromUs));
};
