import { fromSeconds, type Us } from '../time/us';
import { zoneOf, type Level } from './level';

/** A sentence takes about this long: what is heard within it decides. */
const SENTENCE_US = fromSeconds(0.6);
/** Without anything for this long, something is wrong. */
const PATIENCE_US = fromSeconds(4);

/**
 * What was heard of a teacher who was asked to say a sentence.
 * - `listening`: not long enough yet to tell
 * - `nothing`: not even the hiss of an open microphone
 */
export type Heard = 'listening' | 'hear-you' | 'very-quiet' | 'too-loud' | 'nothing';

export interface VoiceCheck {
  readonly sinceUs: Us;
  readonly lastUs: Us;
  /** Time spent in each zone, µs. */
  readonly rightUs: Us;
  readonly loudUs: Us;
  readonly quietUs: Us;
  readonly heard: Heard;
}

/** Begins to listen. */
export const listenFrom = (nowUs: Us): VoiceCheck => ({
  sinceUs: nowUs,
  lastUs: nowUs,
  rightUs: 0,
  loudUs: 0,
  quietUs: 0,
  heard: 'listening',
});

/** Steps longer than this mean that the page stood still, and count as this, µs. */
const LONGEST_STEP_US = fromSeconds(0.25);

/** Takes in the level at a moment. A good voice heard once stays heard, until it is much too loud. */
export const listen = (check: VoiceCheck, level: Level, nowUs: Us): VoiceCheck => {
  const stepUs = Math.min(LONGEST_STEP_US, Math.max(0, nowUs - check.lastUs));
  const zone = zoneOf(level);
  const rightUs = check.rightUs + (zone === 'right' ? stepUs : 0);
  const loudUs = check.loudUs + (zone === 'too-loud' ? stepUs : 0);
  const quietUs = check.quietUs + (zone === 'too-quiet' ? stepUs : 0);
  const patient = nowUs - check.sinceUs < PATIENCE_US;
  let heard: Heard = 'listening';
  // A hit against the desk is loud for a moment; a voice that is too loud is so again and again.
  if (loudUs >= SENTENCE_US / 2 && loudUs > rightUs / 4) heard = 'too-loud';
  else if (rightUs >= SENTENCE_US) heard = 'hear-you';
  else if (!patient) heard = quietUs + rightUs + loudUs > 0 ? 'very-quiet' : 'nothing';
  return { sinceUs: check.sinceUs, lastUs: nowUs, rightUs, loudUs, quietUs, heard };
};

/** Whether the microphone gives nothing at all: not even the hiss of an open one. */
export const isDead = (check: VoiceCheck): boolean =>
  check.rightUs + check.loudUs + check.quietUs === 0;

/** A microphone that has just been opened gives nothing at first. */
const OPENING_US = fromSeconds(2);

/** Whether it is too early to say that a microphone is dead. */
export const isOpening = (check: VoiceCheck): boolean =>
  isDead(check) && check.lastUs - check.sinceUs < OPENING_US;

/** What is said of it, and what to do. */
export const HEARD_WORDS: Record<Heard, { readonly sentence: string; readonly next: string }> = {
  listening: { sentence: 'Say a sentence.', next: 'As loud as you will speak in the lesson.' },
  'hear-you': { sentence: 'I hear you.', next: '' },
  'very-quiet': {
    sentence: 'Very quiet.',
    next: 'Come closer to the microphone, or turn it up in the sound settings of this device.',
  },
  'too-loud': {
    sentence: 'Too loud: it will crackle.',
    next: 'Move away from the microphone a little, or turn it down in the sound settings.',
  },
  nothing: {
    sentence: 'Nothing: is it muted?',
    next: 'Look for a switch on the microphone or its cable, see that it is not muted in the sound settings, or choose another one below.',
  },
};
