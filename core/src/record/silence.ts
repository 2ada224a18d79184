import { zoneOf, type Level } from '../sound/level';
import { fromSeconds, type Us } from '../time/us';

/** Nothing heard for this long while a microphone is on: said, without stopping. */
export const SILENT_AFTER_US: Us = fromSeconds(6);

/** Since when there has been nothing to hear; null while there is. */
export interface Silence {
  readonly sinceUs: Us | null;
}

export const NO_SILENCE: Silence = { sinceUs: null };

/** Too quiet to be a voice near the microphone, or nothing at all. */
const isSilent = (level: Level) => {
  const zone = zoneOf(level);
  return zone === 'nothing' || zone === 'too-quiet';
};

/** Takes in what is heard now. A pause of the recorder begins the count anew. */
export const hear = (before: Silence, level: Level, nowUs: Us, running: boolean): Silence => {
  if (!running || !isSilent(level)) return NO_SILENCE;
  return before.sinceUs === null ? { sinceUs: nowUs } : before;
};

/** Whether it has been silent for so long that the teacher should know. */
export const isLongSilence = (silence: Silence, nowUs: Us): boolean =>
  silence.sinceUs !== null && nowUs - silence.sinceUs >= SILENT_AFTER_US;
