import type { Film } from '../film/film';
import { filmIn } from '../film/span';
import { cardPlaceOf } from '../lesson/title-card';
import { isHeardAt } from '../lesson/speed';
import { LEVEL_STEP_US, type LevelLine } from '../sound/level-line';
import { frameToUs } from '../time/frames';
import { at } from '../time/timeline';
import { formatClock } from '../time/us';
import type { Check } from './check';

/**
 * A voice is as loud as this over 20 ms (RMS, dBFS) only where a microphone had no more to give: the tops of its waves are cut
 * off. A sine that just reaches full scale has −3.
 */
const OVERDRIVEN_DBFS = -5;
/** Less of it is a knock on the table, steps of 20 ms. */
const LEAST_STEPS = 5;

/** Whether the microphone was driven too hard somewhere that is heard. */
export const tooLoudCheck = (film: Film, levels: ReadonlyMap<string, LevelLine>): Check[] => {
  const { muted } = film.lesson.decisions;
  let steps = 0;
  let firstUs: number | null = null;
  for (const span of film.spans) {
    const line = levels.get(span.take.id);
    if (!line || cardPlaceOf(span.take) || !isHeardAt(span.rate)) continue;
    const last = Math.min(line.length, Math.floor(frameToUs(span.endFrame) / LEVEL_STEP_US));
    for (let step = Math.ceil(frameToUs(span.startFrame) / LEVEL_STEP_US); step < last; step++) {
      if (line[step]! - 100 < OVERDRIVEN_DBFS) continue;
      if (at(muted, span.take.id, step * LEVEL_STEP_US)) continue;
      steps++;
      firstUs ??= filmIn(span, step * LEVEL_STEP_US);
    }
  }
  if (firstUs === null || steps < LEAST_STEPS) return [];
  const sentence = `The microphone was too loud and rasps, first at ${formatClock(firstUs)}. Speaking it anew over its picture helps.`;
  const mend = { words: 'To Tidy', step: 'tidy' } as const;
  return [{ id: 'too-loud', verdict: 'look', sentence, atUs: firstUs, mend }];
};
