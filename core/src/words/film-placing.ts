import { spanAt, type Film } from '../film/film';
import { recordedIn, type Span } from '../film/span';
import { cardPlaceOf } from '../lesson/title-card';
import { frameAt, frameToUs, inFrames } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { spread, wordsIn, type Cue, type WordTime } from './cue';

/** Words with times of the film, as a file or a running clock gives them. */
export interface TimedText extends TimeRange {
  readonly text: string;
}

/** The shortest that a word or a cue is taken for, µs. */
const LEAST_US = 20_000;

/** The footage that is shown at a time of the film; on a card and outside of the film, what is nearest. */
const footageAt = (film: Film, filmUs: Us): Span | undefined => {
  const span = spanAt(film, frameAt(Math.max(0, Math.min(filmUs, film.durationUs - 1))));
  if (!span || !cardPlaceOf(span.take)) return span;
  return cardPlaceOf(span.take) === 'opening'
    ? film.spans.find(({ take }) => !cardPlaceOf(take))
    : film.spans.findLast(({ take }) => !cardPlaceOf(take));
};

/** Where a stretch of the film was recorded: what of it lies in the same kept footage as a time in it. */
const recordedOf = (film: Film, startUs: Us, endUs: Us, insideUs: Us) => {
  const span = footageAt(film, insideUs);
  if (!span) return null;
  const [from, to] = [frameToUs(span.startFrame), frameToUs(span.endFrame)];
  const at = (filmUs: Us) =>
    Math.min(to, Math.max(from, Math.round(recordedIn(span, inFrames(filmUs)))));
  const began = Math.min(at(startUs), to - LEAST_US);
  return {
    takeId: span.take.id,
    placementId: span.placementId,
    startUs: began,
    endUs: Math.max(at(endUs), began + LEAST_US),
  };
};

interface Placing {
  readonly timed: Cue['timed'];
  readonly draft?: boolean;
  readonly newId: () => string;
}

/**
 * The cues that words with times of the film become: each belongs to the take that is shown then, so that no later cut puts it
 * wrong. What goes over the end of a take is divided there; what lies on a card, or outside of the film, comes to the footage next to it.
 *
 * @param times when each word is read, in times of the film; absent: spread over it by the signs
 */
export const cuesOfFilmText = (
  film: Film,
  { startUs, endUs, text }: TimedText,
  { timed, draft = false, newId }: Placing,
  times?: readonly WordTime[],
): Cue[] => {
  const words = wordsIn(text);
  const said = times ?? spread(words, startUs, Math.max(endUs, startUs + LEAST_US * words.length));
  const middleOf = ([from, to]: WordTime) => (from + to) / 2;
  const placed = said.map((time) => ({
    sure: time[2],
    at: recordedOf(film, time[0], time[1], middleOf(time)),
  }));
  const cues: Cue[] = [];
  for (let from = 0; from < placed.length;) {
    const first = placed[from]!.at;
    let to = from + 1;
    const isSame = (other: typeof first) =>
      other?.takeId === first?.takeId &&
      other?.placementId === first?.placementId &&
      (other?.startUs ?? 0) >= (first?.startUs ?? 0);
    while (to < placed.length && isSame(placed[to]!.at)) to++;
    if (first) {
      const part = placed.slice(from, to).map(({ at, sure }) => [at!, sure] as const);
      const alone = from === 0 && to === placed.length;
      const last = part.at(-1)![0];
      // What isn't divided keeps its own ends, as far as the footage of its first and last word reaches.
      const began = alone ? recordedOf(film, startUs, said[0]![1], middleOf(said[0]!)) : null;
      const end = said.at(-1)!;
      const ended = alone ? recordedOf(film, end[0], endUs, middleOf(end)) : null;
      cues.push({
        id: newId(),
        takeId: first.takeId,
        startUs: Math.min(began?.startUs ?? first.startUs, first.startUs),
        endUs: Math.max(ended?.endUs ?? last.endUs, last.endUs, first.startUs + frameToUs(1)),
        text: alone ? text : words.slice(from, to).join(' '),
        words: part.map(([at, sure]): WordTime => [at.startUs, at.endUs, sure]),
        timed,
        draft,
      });
    }
    from = to;
  }
  return cues;
};
