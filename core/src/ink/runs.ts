import type { Id } from '../lesson/take';
import type { Us } from '../time/us';
import type { InkTrack, Stroke } from './ink-track';

/** A hand that rests for longer than this writes something else next. */
const PAUSE_US = 1_500_000;

/** What was written in one go: a word, a figure. */
export interface Run {
  readonly startUs: Us;
  readonly endUs: Us;
  /** What can be seen of it at some time, and what was taken away. */
  readonly strokes: readonly Id[];
  readonly gone: readonly Id[];
  /** Its words, where it has any. */
  readonly says: string;
}

/** Whether a stroke was taken away: at no time is anything seen of it. */
export const isGone = ({ wiped }: Stroke): boolean =>
  wiped.some(({ fromUs, toUs }) => fromUs === 0 && toUs === Infinity);

/** What was written on a page, run by run, in order. Slips that were wiped at once are left out. */
export const runsOf = (track: InkTrack, page: Id): Run[] => {
  const runs: { startUs: Us; endUs: Us; strokes: Id[]; gone: Id[]; says: string }[] = [];
  for (const stroke of track.strokes) {
    if (stroke.page !== page) continue;
    const { beganUs, id, text } = stroke;
    const endUs = Math.max(beganUs, Number.isFinite(stroke.endUs) ? stroke.endUs : beganUs);
    if (
      !isGone(stroke) &&
      stroke.wiped.some(({ fromUs, toUs }) => fromUs <= endUs && toUs === Infinity)
    )
      continue;
    let run = runs.at(-1);
    if (!run || beganUs - run.endUs > PAUSE_US) {
      run = { startUs: beganUs, endUs, strokes: [], gone: [], says: '' };
      runs.push(run);
    }
    run.endUs = Math.max(run.endUs, endUs);
    (isGone(stroke) ? run.gone : run.strokes).push(id);
    if (text !== '') run.says = run.says === '' ? text : `${run.says}, ${text}`;
  }
  return runs;
};
