import { STRETCH } from '../edit/kinds/stretch-of-take';
import type { Said, Step } from '../edit/steps';
import { takeNameOf } from '../lesson/take-names';
import { formatClock, formatSpoken } from '../time/us';
import { filmTimeFrom, filmTimeOf, type Film } from './film';

/** Shorter stretches are named as if they lasted this long, µs. */
const LEAST_US = 1_000_000;

/** A recorded stretch with its place in the film: `4 s at 1:12`, `all of Take 2 from 1:12 on`. */
const stretchInWords = (
  film: Film,
  { takeId, startUs, endUs }: NonNullable<Said['of']>,
): string => {
  const take = film.lesson.takes.find(({ id }) => id === takeId);
  const name = take ? takeNameOf(film.lesson, takeId) : 'a take';
  const toEnd = !take || endUs >= take.durationUs;
  if (toEnd && startUs === 0) return `all of ${name}`;
  // For a cut: the place in the film where it was.
  const at = formatClock(filmTimeFrom(film, { takeId, takeUs: startUs }));
  if (toEnd) return `all of ${name} from ${at} on`;
  const [from, to] = [startUs, endUs].map((takeUs) => filmTimeOf(film, { takeId, takeUs }));
  const lengthUs = from != null && to != null && to > from ? to - from : endUs - startUs;
  return `${formatSpoken(Math.max(LEAST_US, lengthUs))} at ${at}`;
};

const saidInWords = (film: Film, { words, of }: Said): string =>
  of === null ? words : words.replace(STRETCH, stretchInWords(film, of));

/** Everything that was done, without repetition. */
export const allInWords = (film: Film, said: readonly Said[]): string =>
  [...new Set(said.map((one) => saidInWords(film, one)))].join(' and ');

/** A step in words, with times of the current film: `cut 4 s at 1:12`. */
export const stepInWords = (film: Film, { said }: Step): string => {
  const [first] = said;
  if (first && said.length > 2) return `${saidInWords(film, first)} and ${said.length - 1} more`;
  return allInWords(film, said);
};
