import type { TimeRange } from '../../time/ranges';
import type { Us } from '../../time/us';
import type { WordTime } from '../cue';
import type { Heard, HeardWord, Unit } from './grammar';
import { surenessOf } from './sureness';

/** Looks in a stretch of sound for units one after another; times are those of all the sound. */
export type Decode = (fromUs: Us, toUs: Us, units: readonly Unit[]) => Promise<Heard>;

/** How a script and the sound in which it is said fit together. */
export interface Aligned {
  /** For each unit when its words are said; null: it isn't said. */
  readonly units: readonly (readonly WordTime[] | null)[];
  /** Where something is said that no unit has. */
  readonly unwritten: readonly TimeRange[];
}

/** What the sound's reader can tell, and wants to be told. */
export interface Around {
  /** Told what share of the sound has been looked through. */
  readonly onProgress?: (share: number) => void;
  /** A quiet place shortly before a time: a window ends there. */
  readonly quietBefore?: (us: Us) => Promise<Us>;
}

/** Sound is looked through so much at a time: whoever waits sees how far it is, and it needs little memory. µs. */
const WINDOW_US = 60_000_000;
/** Fastest that anybody speaks, words a second; so many may lie in a window, and some more for what isn't said. */
const MOST_A_SECOND = 4.5;
const MORE_WORDS = 60;
/** Before where a unit begins, µs. */
const BEFORE_US = 150_000;
/** Speech that isn't written is worth being told from so many sounds and so long on; else it's a cough. */
const LEAST_PHONES = 6;
const LEAST_OTHER_US = 700_000;

/** How many units from one on can be said in a stretch. */
const reach = (units: readonly Unit[], from: number, lastsUs: Us, factor: number): number => {
  let words = (lastsUs / 1e6) * MOST_A_SECOND * factor + MORE_WORDS * factor;
  let to = from;
  while (to < units.length && words > 0) words -= units[to++]!.words.length;
  return to;
};

/** The words that were heard of a unit. */
interface HeardUnit {
  readonly unit: number;
  readonly words: readonly HeardWord[];
  readonly whole: boolean;
}

/** The units that were heard, in order; the last one may have been cut off. */
const unitsHeard = (heard: readonly HeardWord[], units: readonly Unit[]): HeardUnit[] => {
  const found = new Map<number, HeardWord[]>();
  for (const word of heard) {
    const there = found.get(word.unit);
    if (there) there.push(word);
    else found.set(word.unit, [word]);
  }
  return [...found].map(([unit, words]) => {
    const said = units[unit]!.words.filter((parts) => parts.length > 0).length;
    return { unit, words, whole: words.length === said };
  });
};

/** More units than this aren't left out at once, unless what comes after them is sure: it is hardly what is said. */
const LEAP = 8;
/** What comes after a leap is sure with so many units in a row. */
const SURE_AFTER = 3;

/**
 * Units without those that were heard far away from the ones before, by themselves: a phrase that comes again, in another place of the
 * script, would take all between for not said.
 */
const withoutLeaps = (heard: readonly HeardUnit[]): HeardUnit[] => {
  const kept: HeardUnit[] = [];
  let before = -1;
  heard.forEach((one, index) => {
    const leaps = one.unit - before - 1 > LEAP;
    const after = heard.slice(index, index + SURE_AFTER);
    const sure =
      after.length === SURE_AFTER &&
      after.every(
        ({ whole }, at) => whole && (at === 0 || after[at]!.unit - after[at - 1]!.unit <= 2),
      );
    if (leaps && !sure) return;
    kept.push(one);
    before = one.unit;
  });
  return kept;
};

/** A time for each written word: what isn't said, like a dash, has none of its own, and stands where the word before it ends. */
const timesOf = (unit: Unit, words: readonly HeardWord[]): [WordTime, HeardWord | null][] => {
  const byWord = new Map(words.map((word) => [word.word, word]));
  let lastUs = words[0]!.startUs;
  return unit.words.map((_, index) => {
    const word = byWord.get(index);
    if (!word) return [[lastUs, lastUs, 0], null];
    lastUs = word.endUs;
    return [[word.startUs, word.endUs, 0], word];
  });
};

/**
 * Finds when each unit of a script is said, window by window: of each window its last unit may have been cut off, and is looked for
 * again in the next, which begins with it.
 *
 * @throws what `decode` throws
 */
export const alignInWindows = async (
  durationUs: Us,
  units: readonly Unit[],
  decode: Decode,
  { onProgress = () => undefined, quietBefore = (us) => Promise.resolve(us) }: Around = {},
): Promise<Aligned> => {
  const found: ([WordTime, HeardWord | null][] | null)[] = units.map(() => null);
  const unwritten: TimeRange[] = [];
  let [atUs, next] = [0, 0];
  const tellOther = (heard: Heard, untilUs: Us) => {
    for (const { startUs, endUs, phones } of heard.other) {
      if (startUs >= untilUs || phones < LEAST_PHONES || endUs - startUs < LEAST_OTHER_US) continue;
      unwritten.push({ startUs, endUs: Math.min(endUs, untilUs) });
    }
  };
  while (atUs < durationUs) {
    const far = atUs + WINDOW_US;
    const last = far >= durationUs;
    const toUs = last ? durationUs : Math.max(await quietBefore(far), atUs + WINDOW_US / 2);
    let heard: Heard = { words: [], other: [] };
    let said: HeardUnit[] = [];
    // Where much that is written isn't said, what is said next lies further on.
    for (const factor of [1, 4]) {
      const to = reach(units, next, toUs - atUs, factor);
      const wanted = units.slice(next, to);
      heard = await decode(atUs, toUs, wanted);
      said = withoutLeaps(unitsHeard(heard.words, wanted));
      if (said.some(({ whole }) => whole) || to === units.length) break;
    }
    const cutOff = last ? undefined : said.at(-1);
    const kept = said.filter((one) => one.whole && one !== cutOff);
    for (const { unit, words } of kept) found[next + unit] = timesOf(units[next + unit]!, words);
    onProgress(Math.min(1, toUs / durationUs));
    if (last) {
      tellOther(heard, durationUs);
      break;
    }
    const beganUs = cutOff ? cutOff.words[0]!.startUs - BEFORE_US : toUs - WINDOW_US / 20;
    if (cutOff && beganUs <= atUs + WINDOW_US / 20) {
      // It fills the window, or is there by itself: it won't be found better in the next.
      if (cutOff.whole)
        found[next + cutOff.unit] = timesOf(units[next + cutOff.unit]!, cutOff.words);
      tellOther(heard, toUs);
      next += cutOff.unit + 1;
      atUs = Math.max(cutOff.words.at(-1)!.endUs, toUs - WINDOW_US / 20);
      continue;
    }
    tellOther(heard, beganUs);
    if (cutOff) next += cutOff.unit;
    atUs = Math.max(beganUs, kept.at(-1)?.words.at(-1)?.endUs ?? 0, atUs + 1);
  }
  const sure = surenessOf(found.flatMap((unit) => unit ?? []).flatMap(([, word]) => word ?? []));
  return {
    units: found.map(
      (unit) =>
        unit?.map(([[startUs, endUs], word]): WordTime => [
          startUs,
          endUs,
          word ? sure(word) : 0,
        ]) ?? null,
    ),
    unwritten: joinedNear(unwritten),
  };
};

/** Ranges that meet or nearly do, as one. */
const joinedNear = (ranges: readonly TimeRange[]): TimeRange[] => {
  const all: TimeRange[] = [];
  for (const range of [...ranges].sort((a, b) => a.startUs - b.startUs)) {
    const before = all.at(-1);
    if (before && range.startUs - before.endUs < 400_000) {
      all[all.length - 1] = {
        startUs: before.startUs,
        endUs: Math.max(before.endUs, range.endUs),
      };
    } else all.push(range);
  }
  return all;
};
