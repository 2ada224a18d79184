import { spanAt, type Film } from '../film/film';
import type { Span } from '../film/span';
import { frameAt, frameToUs } from '../time/frames';
import { lengthOf } from '../time/ranges';
import type { Us } from '../time/us';
import { doubtsOf, LEAST_GAP_US, LEAST_SHOWN_US, MOST_A_SECOND, type Doubt } from './checks';
import { inTakeOrder, signsIn, wordsIn, type Cue } from './cue';
import { filmCuesOf, type FilmCue } from './film-cues';
import { fitsOneCue } from './lines';
import { join, retimed, split } from './mend';
import { breakOf } from './pieces';

/** What is put right by itself: cues that come anew or in place of others, and ids of those that go. */
export interface Righted {
  readonly cues: readonly Cue[];
  readonly gone: readonly string[];
  /** Doubts before, and those that are left. */
  readonly before: number;
  readonly after: number;
}

/** A cue may come so much before it is said; earlier than that it would give away what comes, µs. */
const EARLIER_US = 300_000;
/** Two that are so near to one another may become one, µs. */
const NEAR_US = 400_000;

const countOf = (doubts: readonly Doubt[][]): number =>
  doubts.reduce((sum, list) => sum + list.length, 0);

/** A cue in as many as it needs to have two lines each. */
const divided = (cue: Cue, newId: () => string): Cue[] => {
  if (fitsOneCue(cue.text)) return [cue];
  // Set breaks are what makes it too long: the machine's are as good.
  const plain = { ...cue, text: wordsIn(cue.text).join(' ') };
  if (fitsOneCue(plain.text)) return [plain];
  const at = breakOf(wordsIn(plain.text));
  const halves = at === null ? null : split(plain, at, newId());
  return halves ? halves.flatMap((half) => divided(half, newId)) : [plain];
};

/** What is read for too short a time, as one with what follows it closely. */
const merged = (cues: readonly FilmCue[]): { cues: Cue[]; gone: string[] } => {
  const joined: Cue[] = [];
  const gone: string[] = [];
  let last: { cue: Cue; of: FilmCue } | null = null;
  for (const of of cues) {
    const near: boolean =
      last !== null &&
      last.of.placementId === of.placementId &&
      of.startUs - last.of.endUs < NEAR_US &&
      (lengthOf(last.of) < LEAST_SHOWN_US || lengthOf(of) < LEAST_SHOWN_US);
    const one: Cue | null = near ? join(last!.cue, of.cue) : null;
    if (one && fitsOneCue(one.text)) {
      gone.push(of.cue.id);
      joined[joined.length - 1] = one;
      last = { cue: one, of: { ...of, startUs: last!.of.startUs } };
    } else {
      joined.push(of.cue);
      last = { cue: of.cue, of };
    }
  }
  return { cues: joined, gone };
};

const sameTimes = (one: Cue, other: Cue): boolean =>
  one.startUs === other.startUs && one.endUs === other.endUs;

/** The stretch of the film that a cue lies in, whole; null where a cut goes through it. */
const stretchOf = (film: Film, { startUs, endUs }: FilmCue): Span | null => {
  const span = spanAt(film, frameAt(startUs));
  return span && endUs <= frameToUs(span.filmFrame + span.frames) ? span : null;
};

/** A cue for a stretch of the film in which it can be read, and before which and after which it is quiet long enough. */
const inTime = (
  film: Film,
  cues: readonly FilmCue[],
  index: number,
  earlierUs: Us = EARLIER_US,
): Cue => {
  const own = cues[index]!;
  const span = stretchOf(film, own);
  if (!span) return own.cue;
  const needsUs = Math.max(
    LEAST_SHOWN_US,
    Math.ceil((signsIn(own.text.replace(/\s+/g, ' ')) * 1e6) / MOST_A_SECOND),
  );
  const freeFrom = Math.max(
    frameToUs(span.filmFrame),
    (cues[index - 1]?.endUs ?? -1e9) + LEAST_GAP_US,
  );
  const freeTo = Math.min(
    frameToUs(span.filmFrame + span.frames),
    (cues[index + 1]?.startUs ?? Number.POSITIVE_INFINITY) - LEAST_GAP_US,
  );
  let { startUs, endUs } = own;
  if (endUs > freeTo && freeTo - startUs >= LEAST_SHOWN_US / 2) endUs = freeTo;
  if (endUs - startUs < needsUs) endUs = Math.max(endUs, Math.min(freeTo, startUs + needsUs));
  if (endUs - startUs < needsUs) {
    startUs = Math.min(startUs, Math.max(freeFrom, startUs - earlierUs, endUs - needsUs));
  }
  const { recorded, film: shown } = span.rate;
  const inTake = (filmUs: Us) => (filmUs * recorded) / shown;
  const { cue } = own;
  const changed = retimed(
    cue,
    Math.max(0, cue.startUs + inTake(startUs - own.startUs)),
    cue.endUs + inTake(endUs - own.endUs),
  );
  return sameTimes(changed, cue) ? cue : { ...changed, timed: cue.timed };
};

/**
 * Puts right what can be put right without anybody's ear: too long cues are divided, too short ones joined, each stays as long
 * as it takes to read where there is room, and none runs into the next. Nothing that is said is changed.
 *
 * @param cues in one language, by take and time
 */
export const madeRight = (film: Film, cues: readonly Cue[], newId: () => string): Righted => {
  const seen = filmCuesOf(film, cues);
  const before = countOf(doubtsOf(seen));
  const counts = new Map<string, number>();
  for (const { cue } of seen) counts.set(cue.id, (counts.get(cue.id) ?? 0) + 1);
  // What is read twice, or in parts, or not at all, is left as it is.
  const once = seen.filter(({ cue, fromWord, toWord }) => {
    const whole = fromWord === 0 && toWord === wordsIn(cue.text).length;
    return counts.get(cue.id) === 1 && whole;
  });
  const ids = new Set(once.map(({ cue }) => cue.id));
  const left = cues.filter(({ id }) => !ids.has(id));
  const again = (changed: readonly Cue[]) =>
    filmCuesOf(film, [...left, ...changed].sort(inTakeOrder));
  const halves = once.flatMap(({ cue }) => divided(cue, newId));
  const { cues: together, gone } = merged(again(halves).filter(({ cue }) => halves.includes(cue)));
  const shown = again(together);
  // Each sees where the one before it has come to end.
  const list = [...shown];
  const cuesAfter = new Map<string, Cue>(together.map((cue) => [cue.id, cue]));
  shown.forEach(({ cue }, index) => {
    if (!cuesAfter.has(cue.id)) return;
    const changed = inTime(film, list, index);
    if (changed === cue) return;
    cuesAfter.set(cue.id, changed);
    const [moved] = filmCuesOf(film, [changed]);
    if (moved) list[index] = moved;
  });
  const known = new Map(cues.map((cue) => [cue.id, cue]));
  const changed = [...cuesAfter.values()].filter((cue) => known.get(cue.id) !== cue);
  return {
    cues: changed,
    gone,
    before,
    after: countOf(doubtsOf(again([...cuesAfter.values()]))),
  };
};

/**
 * Cues that stay where it is quiet after them for as long as it takes to read them; none begins any earlier. In one language, by
 * take and time.
 */
export const heldToRead = (film: Film, cues: readonly Cue[]): Cue[] => {
  const list = filmCuesOf(film, cues);
  const held = new Map<string, Cue>();
  list.forEach((one, index) => {
    if (one.toWord === wordsIn(one.cue.text).length)
      held.set(one.cue.id, inTime(film, list, index, 0));
  });
  return cues.map((cue) => held.get(cue.id) ?? cue);
};

/**
 * Lays out new cues among existing ones: each is shown as long as it takes to read where there is room, and leaves a gap before the
 * next. Of the existing cues only the end of one that a new cue follows is changed.
 *
 * @param among in the same language, in any order
 * @param made in any order
 * @returns those to be written: all new ones, and others that end earlier
 */
export const laidOut = (film: Film, among: readonly Cue[], made: readonly Cue[]): Cue[] => {
  const all = [...among, ...made].sort(inTakeOrder);
  const isNew = new Set(made.map(({ id }) => id));
  return heldToRead(film, all).filter((cue, index) => {
    const before = all[index]!;
    if (isNew.has(cue.id)) return true;
    return cue.endUs < before.endUs && isNew.has(all[index + 1]?.id ?? '');
  });
};
