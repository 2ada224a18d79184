import type { Film } from '../film/film';
import { filmIn, type Span } from '../film/span';
import { frameToUs } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { wordTimesOf, type Cue, type WordTime } from './cue';

/** A cue, or what the cuts have left of one, where it is read in the film; times are the film's. */
export interface FilmCue extends TimeRange {
  readonly cue: Cue;
  readonly placementId: string;
  readonly text: string;
  /** Which of the cue's words it has: from one, up to another that it has no more. */
  readonly fromWord: number;
  readonly toWord: number;
}

/** The words of a text from one up to another, with what the author has put between them. */
const wordsFrom = (text: string, from: number, to: number): string =>
  [...text.matchAll(/(\s*)(\S+)/g)]
    .slice(from, to)
    .map(([, between, word], at) =>
      at === 0 ? word : (between!.includes('\n') ? '\n' : ' ') + word,
    )
    .join('');

/** What is left of a cue in a span: a word is there when its middle is. Null where none is. */
const leftIn = (span: Span, cue: Cue, times: readonly WordTime[]): FilmCue | null => {
  const [fromUs, toUs] = [frameToUs(span.startFrame), frameToUs(span.endFrame)];
  const isIn = ([startUs, endUs]: WordTime) => {
    const middle = (startUs + endUs) / 2;
    return middle >= fromUs && middle < toUs;
  };
  const fromWord = times.findIndex(isIn);
  if (fromWord < 0) return null;
  const after = times.slice(fromWord).findIndex((time) => !isIn(time));
  const toWord = after < 0 ? times.length : fromWord + after;
  // Where its beginning was cut, what is left begins with its first word.
  const startUs = filmIn(
    span,
    Math.max(fromUs, fromWord === 0 ? cue.startUs : times[fromWord]![0]),
  );
  const whole = toWord === times.length;
  const endUs = filmIn(span, Math.min(toUs, whole ? cue.endUs : times[toWord - 1]![1]));
  if (endUs <= startUs) return null;
  const text = fromWord === 0 && whole ? cue.text : wordsFrom(cue.text, fromWord, toWord);
  return { cue, placementId: span.placementId, text, fromWord, toWord, startUs, endUs };
};

/** Whether one goes on where the other ends, with nothing but a cut between. */
const goesOn = (before: FilmCue, after: FilmCue): boolean =>
  before.cue.id === after.cue.id &&
  before.placementId === after.placementId &&
  after.fromWord >= before.toWord;

const joined = (before: FilmCue, after: FilmCue): FilmCue => ({
  ...before,
  text: `${before.text} ${after.text}`,
  toWord: after.toWord,
  endUs: after.endUs,
});

/** How many cues of a list in order of time end at or before a time: an upper bound is enough to begin at. */
const firstAfter = (cues: readonly Cue[], us: Us, longestUs: Us): number => {
  let low = 0;
  let high = cues.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (cues[middle]!.startUs <= us - longestUs) low = middle + 1;
    else high = middle;
  }
  return low;
};

/**
 * The cues of a film, in its order. A word that was cut is not in them; what a cut goes through is joined again where the
 * film goes on with the same cue, and stays divided where something else comes between.
 *
 * @param cues in one language, by take and time
 */
export const filmCuesOf = (film: Film, cues: readonly Cue[]): FilmCue[] => {
  const byTake = new Map<string, Cue[]>();
  for (const cue of cues) {
    const there = byTake.get(cue.takeId);
    if (there) there.push(cue);
    else byTake.set(cue.takeId, [cue]);
  }
  const times = new Map<Cue, readonly WordTime[]>();
  const longest = new Map(
    [...byTake].map(([id, list]) => [
      id,
      list.reduce((most, { startUs, endUs }) => Math.max(most, endUs - startUs), 0),
    ]),
  );
  const found: FilmCue[] = [];
  for (const span of film.spans) {
    const list = byTake.get(span.take.id) ?? [];
    const [fromUs, toUs] = [frameToUs(span.startFrame), frameToUs(span.endFrame)];
    const from = firstAfter(list, fromUs, longest.get(span.take.id) ?? 0);
    const inSpan: FilmCue[] = [];
    for (let at = from; list[at] && list[at]!.startUs < toUs; at++) {
      const cue = list[at]!;
      if (cue.endUs <= fromUs) continue;
      const said = times.get(cue) ?? wordTimesOf(cue);
      times.set(cue, said);
      const left = leftIn(span, cue, said);
      if (left) inSpan.push(left);
    }
    for (const left of inSpan) {
      // Two may overlap: the one that goes on needn't be the last.
      const at = [1, 2, 3]
        .map((back) => found.length - back)
        .find((index) => found[index] && goesOn(found[index], left));
      if (at !== undefined) found[at] = joined(found[at]!, left);
      else found.push(left);
    }
  }
  return found;
};

/** The cue that is read at a time of the film; of two the later. */
export const cueAt = (cues: readonly FilmCue[], filmUs: Us): FilmCue | undefined =>
  cues.findLast(({ startUs, endUs }) => startUs <= filmUs && filmUs < endUs);
