import type { Us } from '../time/us';
import { cueHeard, type HeardPiece } from './align/heard-cues';
import type { Cue, WordTime } from './cue';
import { fitsOneCue } from './lines';

/** A word that a recogniser has heard, in times of what it listened to. */
export interface HeardText {
  readonly text: string;
  readonly startUs: Us;
  readonly endUs: Us;
  /** 0 to 100. */
  readonly sure: number;
}

/** Quiet for so long ends a caption, µs. */
const PAUSE_US = 600_000;
const endsSentence = (text: string): boolean => /[.!?…。！？]["”’)]?$/.test(text);

/** Below this a word of a draft is doubtful. */
export const DOUBTFUL = 50;
/** Below this certainty a draft is more wrong than right, and is not offered. */
export const LEAST_CONFIDENCE = 50;

/** The certainty of a draft as a whole: the mean of its words', 0 to 100; 0 without words. */
export const confidenceOf = (heard: readonly HeardText[]): number =>
  heard.length === 0
    ? 0
    : Math.round(heard.reduce((sum, { sure }) => sum + sure, 0) / heard.length);

/**
 * Captions of what a recogniser has heard, called drafts: one ends with a sentence where there are signs, with a pause, or with as much as
 * two lines hold.
 *
 * @param pieces where what was listened to was recorded
 */
export const draftedCues = (
  heard: readonly HeardText[],
  pieces: readonly HeardPiece[],
  newId: () => string,
): Cue[] => {
  const groups: HeardText[][] = [];
  for (const word of heard) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    const text = group ? [...group, word].map((one) => one.text).join(' ') : '';
    const goesOn =
      group &&
      before &&
      word.startUs - before.endUs < PAUSE_US &&
      !endsSentence(before.text) &&
      fitsOneCue(text);
    if (goesOn) group.push(word);
    else groups.push([word]);
  }
  return groups.flatMap((group) => {
    const text = group.map((word) => word.text).join(' ');
    const times = group.map(({ startUs, endUs, sure }): WordTime => [startUs, endUs, sure]);
    const cue = cueHeard(
      {
        ...{
          id: newId(),
          takeId: '',
          startUs: 0,
          endUs: 1,
          text: text[0]!.toLocaleUpperCase() + text.slice(1),
        },
        ...{ words: null, timed: 'by-voice', draft: true },
      },
      times,
      pieces,
    );
    return cue ? [cue] : [];
  });
};
