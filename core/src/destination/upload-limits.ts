import { fromSeconds, type Us } from '../time/us';
import { MEGABYTE } from './destination';

/** Limits that a place says it has; null: none of that kind. */
export interface UploadLimits {
  readonly leastUs: Us | null;
  readonly mostUs: Us | null;
  /** Whole ones that fit; nothing of less than one is found. */
  readonly mostMegabytes: number | null;
}

/** Bounded, as all that is repeated here: whatever is pasted is gone through once. */
const NUMBER = String.raw`(?<!\d)\d{1,6}(?:[.,]\d{1,6})?`;
const TO = String.raw`\s{0,2}(?:to|and|–|—|-)\s{0,2}`;
/** A size, in units of a thousand or (MiB) of 1,024. */
const SIZE = new RegExp(
  String.raw`(${NUMBER})\s{0,2}(k|m|g)(i?)(?:b(?:ytes?)?\b|egabytes?\b|igabytes?\b|ilobytes?\b)`,
  'gi',
);
/** A length: `1:30`, with or without a unit, or a number (or two) with one. */
const LENGTH = new RegExp(
  String.raw`(?:((?<![\d:])\d{1,2}(?::\d{2}){1,2})|(?:(${NUMBER})${TO})?(${NUMBER})\s{0,2}-?\s{0,2}(h(?:ours?|rs?)?|min(?:ute)?s?|s(?:ec(?:ond)?s?)?)\b)`,
  'gi',
);
/** So far from a length stands what it is, signs. */
const NEAR_SIGNS = 30;
/** What makes a length the least, before it or after it. */
const LEAST_BEFORE =
  /(?:at least|minimum(?: of| is|:)?|not (?:under|shorter than)|no(?:t)? less than|longer than|more than|from)\s*$/i;
const NOT_LONGER = /no(?:t)? (?:longer|more) than\s*$/i;
const LEAST_AFTER = /^\s*(?:minimum|at least|or (?:more|longer))/i;

const numberIn = (text: string): number => Number(text.replace(',', '.'));
const secondsOf = (unit: string): number => (/^h/i.test(unit) ? 3_600 : /^m/i.test(unit) ? 60 : 1);
const clockSeconds = (clock: string): number =>
  clock.split(':').reduce((all, part) => all * 60 + Number(part), 0);

const megabytesIn = (text: string): number | null => {
  const all = [...text.matchAll(SIZE)].map(([, number, prefix, binary]) => {
    const power = { k: 1, m: 2, g: 3 }[prefix!.toLowerCase()]!;
    return Math.floor((numberIn(number!) * (binary ? 1_024 : 1_000) ** power) / MEGABYTE);
  });
  const found = all.filter((whole) => whole > 0);
  // Where it says several, what fits the least of them fits all.
  return found.length === 0 ? null : Math.min(...found);
};

/**
 * Limits in what a place says of itself, in English: “MP4, up to 20 MB, 2–5 minutes”. Where it says several of a kind, the strictest counts.
 */
export const uploadLimitsIn = (text: string): UploadLimits => {
  const least: number[] = [];
  const most: number[] = [];
  for (const match of text.matchAll(LENGTH)) {
    const [whole, clock, first, last, unit] = match;
    const end = match.index + whole.length;
    const before = text.slice(Math.max(0, match.index - NEAR_SIGNS), match.index);
    const after = text.slice(end, end + NEAR_SIGNS);
    const seconds = clock ? clockSeconds(clock) : numberIn(last!) * secondsOf(unit!);
    if (!(seconds > 0)) continue;
    if (first) least.push(numberIn(first) * secondsOf(unit!));
    const isLeast =
      LEAST_AFTER.test(after) || (LEAST_BEFORE.test(before) && !NOT_LONGER.test(before));
    (isLeast ? least : most).push(seconds);
  }
  const us = (all: readonly number[], choose: (...of: number[]) => number): Us | null =>
    all.length === 0 ? null : fromSeconds(choose(...all));
  const [leastUs, mostUs] = [us(least, Math.max), us(most, Math.min)];
  return {
    // What can’t be kept both isn’t what it says.
    leastUs: leastUs !== null && mostUs !== null && leastUs >= mostUs ? null : leastUs,
    mostUs,
    mostMegabytes: megabytesIn(text),
  };
};
