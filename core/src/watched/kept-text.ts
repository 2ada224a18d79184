import { unwatched, withPlayed, type Played, type WatchedSeconds } from './seconds';

/** Counted in letters as well: what it is kept in has little room. */
const RADIX = 36;

/** The stretches that were watched, in order. */
const stretchesOf = (watched: WatchedSeconds): Played[] =>
  [...watched.matchAll(/[^0]+/g)].map(({ 0: found, index }) => [index, index + found.length]);

/**
 * Which seconds were watched as a short text: `0-1k 2s-3f`, from one up to another, in base 36. What doesn't fit is left out, the latest
 * first.
 */
export const writeWatched = (watched: WatchedSeconds, mostSigns: number): string => {
  let text = '';
  for (const [from, to] of stretchesOf(watched)) {
    const next = `${text === '' ? '' : ' '}${from.toString(RADIX)}-${to.toString(RADIX)}`;
    if (text.length + next.length > mostSigns) break;
    text += next;
  }
  return text;
};

/** Reads {@link writeWatched}; what can't be read counts as not watched. */
export const readWatched = (text: string, seconds: number): WatchedSeconds =>
  withPlayed(
    unwatched(seconds),
    text.split(' ').flatMap((part): Played[] => {
      const [, from, to] = /^([0-9a-z]{1,4})-([0-9a-z]{1,4})$/.exec(part) ?? [];
      if (from === undefined || to === undefined) return [];
      const [start, end] = [parseInt(from, RADIX), parseInt(to, RADIX)];
      return start < end ? [[start, end]] : [];
    }),
  );
