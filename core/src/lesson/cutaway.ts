import * as z from 'zod';

import { materialPageSchema, type MaterialPage } from '../material/material';
import { frameToUs, nearestFrame } from '../time/frames';
import { subtract, type TimeRange } from '../time/ranges';
import { ofTake, type Laid, type Timeline } from '../time/timeline';
import { idSchema, usSchema, type Take } from './take';

/** Another take, going on beside one: its picture while that one is heard, or its voice while that one is seen. */
export const footageSchema = z
  .object({
    takeId: idSchema,
    /** Where in that take it begins. */
    fromUs: usSchema,
    /** Where in the take that goes on it begins. */
    sinceUs: usSchema,
  })
  .readonly();
export type CutawayFootage = z.infer<typeof footageSchema>;

/** What is shown in place of what was recorded: a page, or the picture of another take. */
export const cutawaySchema = z.union([materialPageSchema, footageSchema]);
export type Cutaway = z.infer<typeof cutawaySchema>;

/** The page that it shows; null where it is a take's picture. */
export const pageOfCutaway = (of: Cutaway): MaterialPage | null => ('content' in of ? of : null);

/** A stretch of what is kept of a take, in frames of its grid, and how many came before it. */
export interface KeptFrames {
  readonly startFrame: number;
  readonly frames: number;
  readonly before: number;
}

const inFrames = (kept: readonly TimeRange[]): KeptFrames[] => {
  let before = 0;
  return kept.flatMap((range) => {
    const startFrame = nearestFrame(range.startUs);
    const frames = nearestFrame(range.endUs) - startFrame;
    const one = { startFrame, frames, before };
    before += frames;
    return frames > 0 ? [one] : [];
  });
};

/** What a cutaway shows of a take, frame by frame: nothing that was cut out of it. */
export const framesOfCutaway = (
  cuts: Timeline<Laid>,
  take: Take,
  { fromUs }: CutawayFootage,
): KeptFrames[] =>
  inFrames(subtract([{ startUs: fromUs, endUs: take.durationUs }], ofTake(cuts, take.id)));

/** The recorded time of the frame that comes so many frames after the beginning; null after the last. */
export const shownAt = (kept: readonly KeptFrames[], frame: number): number | null => {
  const of = kept.find(({ before, frames }) => frame >= before && frame < before + frames);
  return of ? frameToUs(of.startFrame + frame - of.before) : null;
};

/** Takes whose pictures are shown as cutaways, whether they stand in the film or not. */
export const takesShown = (
  cutaways: readonly { readonly of: Cutaway }[],
  takes: readonly Take[],
): Take[] => {
  const ids = new Set(cutaways.flatMap(({ of }) => ('takeId' in of ? [of.takeId] : [])));
  return takes.filter(({ id, state }) => state === 'ready' && ids.has(id));
};
