import { lengthOf } from '../time/ranges';
import { signsIn } from './cue';
import type { FilmCue } from './film-cues';
import { captionLines, MOST_IN_LINE, MOST_LINES } from './lines';

/** Most signs a second that grown readers follow while they look at something else too. */
export const MOST_A_SECOND = 17;
/** What is shown for less than this is noticed and not read, µs. */
export const LEAST_SHOWN_US = 1_000_000;
/** A gap shorter than this is a flicker, not a pause, µs. */
export const LEAST_GAP_US = 80_000;

/** What can be wrong with a cue for who reads it. */
export type Doubt = 'too-many-lines' | 'too-fast' | 'too-short' | 'gap-too-short' | 'overlapping';

/** Each figure and the reason for it, for whoever asks. */
export const DOUBTS: Record<Doubt, { readonly what: string; readonly why: string }> = {
  'too-many-lines': {
    what: 'more than two lines',
    why: `A line holds ${MOST_IN_LINE} signs, which an eye takes in at once; ${MOST_LINES} lines leave the picture to be seen.`,
  },
  'too-fast': {
    what: 'too fast to read',
    why: `More than ${MOST_A_SECOND} signs a second leave no time to look at the picture.`,
  },
  'too-short': {
    what: 'shown under a second',
    why: 'What goes within a second is noticed, but not read.',
  },
  'gap-too-short': {
    what: 'flickers before the next',
    why: 'Less than 80 ms between two looks as if the same words had jumped.',
  },
  overlapping: {
    what: 'still there when the next comes',
    why: 'Two at a time cover the picture, and nobody knows which to read first.',
  },
};

/** Signs a second that a reader has to read, line breaks not counted. */
export const readingSpeed = (cue: FilmCue): number =>
  (signsIn(cue.text.replace(/\s+/g, ' ')) * 1e6) / Math.max(1, lengthOf(cue));

/** What is wrong with each cue of a film, in its order. */
export const doubtsOf = (cues: readonly FilmCue[]): Doubt[][] =>
  cues.map((cue, index) => {
    const next = cues[index + 1];
    const gapUs = next ? next.startUs - cue.endUs : Number.POSITIVE_INFINITY;
    const found: Doubt[] = [];
    if (captionLines(cue.text).length > MOST_LINES) found.push('too-many-lines');
    if (readingSpeed(cue) > MOST_A_SECOND) found.push('too-fast');
    if (lengthOf(cue) < LEAST_SHOWN_US) found.push('too-short');
    // Half a ms for files that count in those.
    if (gapUs < -500) found.push('overlapping');
    else if (gapUs < LEAST_GAP_US - 500) found.push('gap-too-short');
    return found;
  });
