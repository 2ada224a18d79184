import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { LEVEL_STEP_US, type LevelLine } from './level-line';

/** A phrase between two pauses, or a pause long enough to be a thing of its own. */
export interface Phrase extends TimeRange {
  readonly kind: 'speech' | 'quiet';
}

/** A pause this long ends a phrase. */
const PAUSE_US = 420_000;
/** A pause this long is a phrase of its own: dead air that may be cut as one. */
const LONG_PAUSE_US = 1_600_000;
/** Kept on either side of speech when a long pause is cut away, so that words don't lose their ends. */
const BREATH_US = 200_000;
/** Sound shorter than this inside a pause is a click, not a word. */
const CLICK_US = 80_000;
/** Without any pause a phrase is broken here, so that it can be handled at all. */
const LONGEST_PHRASE_US = 20_000_000;

/** The level below which a step counts as pause: between the noise of the room and the voice. */
const pauseLevel = (line: LevelLine): number => {
  const sorted = Uint8Array.from(line).sort();
  const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
  const room = at(0.1);
  const voice = at(0.9);
  return Math.max(20, room + 0.4 * (voice - room));
};

/** Stretches of speech in a level line, in µs: above the threshold, clicks left out, short pauses bridged. */
export const speechIn = (line: LevelLine): TimeRange[] => {
  const threshold = pauseLevel(line);
  const runs: TimeRange[] = [];
  let start = -1;
  for (let step = 0; step <= line.length; step++) {
    const loud = step < line.length && line[step]! > threshold;
    if (loud && start < 0) start = step;
    if (!loud && start >= 0) {
      const run = { startUs: start * LEVEL_STEP_US, endUs: step * LEVEL_STEP_US };
      const last = runs.at(-1);
      if (last && run.startUs - last.endUs < PAUSE_US) {
        runs[runs.length - 1] = { startUs: last.startUs, endUs: run.endUs };
      } else if (run.endUs - run.startUs >= CLICK_US) {
        runs.push(run);
      }
      start = -1;
    }
  }
  return runs;
};

const brokenUp = (phrase: Phrase): Phrase[] => {
  const length = phrase.endUs - phrase.startUs;
  const parts = Math.ceil(length / LONGEST_PHRASE_US);
  return Array.from({ length: parts }, (_, part) => ({
    kind: phrase.kind,
    startUs: phrase.startUs + Math.round((part * length) / parts),
    endUs: phrase.startUs + Math.round(((part + 1) * length) / parts),
  }));
};

/**
 * Divides a take into phrases. They follow on one another without gaps from 0 to its end: a phrase takes
 * half of the short pause before and after it; a long pause is a quiet phrase of its own.
 *
 * @param line levels of the take's voice; null when it has none (the whole take is then quiet)
 * @param durationUs length of the take, µs
 */
export const phrasesOf = (line: LevelLine | null, durationUs: Us): Phrase[] => {
  if (durationUs <= 0) return [];
  const speech = (line ? speechIn(line) : []).filter((run) => run.startUs < durationUs);
  if (speech.length === 0) return brokenUp({ kind: 'quiet', startUs: 0, endUs: durationUs });

  const phrases: Phrase[] = [];
  let startUs = 0;
  const firstUs = speech[0]!.startUs;
  if (firstUs > LONG_PAUSE_US / 2 + BREATH_US) {
    startUs = firstUs - BREATH_US;
    phrases.push({ kind: 'quiet', startUs: 0, endUs: startUs });
  }
  speech.forEach((run, index) => {
    const next = speech[index + 1];
    const nextUs = next?.startUs ?? durationUs;
    const pauseUs = nextUs - run.endUs;
    if (next && pauseUs < LONG_PAUSE_US) {
      const middleUs = Math.round(run.endUs + pauseUs / 2);
      phrases.push({ kind: 'speech', startUs, endUs: middleUs });
      startUs = middleUs;
    } else if (pauseUs >= LONG_PAUSE_US / (next ? 1 : 2)) {
      const quietFrom = run.endUs + BREATH_US;
      const quietTo = next ? nextUs - BREATH_US : durationUs;
      phrases.push({ kind: 'speech', startUs, endUs: quietFrom });
      phrases.push({ kind: 'quiet', startUs: quietFrom, endUs: quietTo });
      startUs = quietTo;
    } else {
      phrases.push({ kind: 'speech', startUs, endUs: durationUs });
      startUs = durationUs;
    }
  });
  return phrases.flatMap(brokenUp);
};
