import * as z from 'zod';
import { trackOf, usSchema, type Take, type Track } from '../lesson/take';
import type { Us } from '../time/us';
import type { PointerPath } from './path';

/** Version of how pointers are found: what another one has found is measured anew. */
export const FINDER_VERSION = 1;

const place = { x: z.number().min(0).max(1), y: z.number().min(0).max(4) };

/**
 * Where a pointer was seen in the pictures of a captured screen: a reading of a track. Places are in widths of the
 * picture, from its upper left corner.
 */
export const foundPointerSchema = z
  .object({
    version: z.number().int(),
    /** Stretches in which it is sure where it was, in order. */
    runs: z
      .array(
        z.object({
          moves: z
            .array(z.object({ atUs: usSchema, ...place, certainty: z.number().min(0).max(1) }))
            .min(1)
            .readonly(),
          untilUs: usSchema,
        }),
      )
      .readonly(),
    /** Where it may have been pressed: it rested, and the picture changed under it. */
    presses: z.array(z.object({ atUs: usSchema, ...place })).readonly(),
    /** For how much of the track it is sure, 0 to 1. */
    sureShare: z.number().min(0).max(1),
  })
  .readonly();
export type FoundPointer = z.infer<typeof foundPointerSchema>;

/**
 * How it stands with the pointer of a take: `found` as far as it is sure, `looking` while it is looked for (`share`: how
 * much has been looked at), `none` where there is nothing to look at or it can't be read.
 */
export const pointerStateSchema = z
  .discriminatedUnion('is', [
    z.object({ is: z.literal('found'), found: foundPointerSchema }),
    z.object({ is: z.literal('looking'), share: z.number().min(0).max(1) }),
    z.object({ is: z.literal('none') }),
  ])
  .readonly();
export type PointerState = z.infer<typeof pointerStateSchema>;

/** The pictures of a take in which a pointer may be seen; undefined where there are none. */
export const screenOf = (take: Take): Track | undefined =>
  take.source === 'screen' || take.source === 'film' ? trackOf(take, 'surface') : undefined;

/** How long a press that was found is taken to have been held. */
const HELD_US: Us = 120_000;

/** What was found, as if it had been recorded. */
export const pathOfFound = ({ runs, presses }: FoundPointer): PointerPath => ({
  ...{ runs, isSeen: true },
  presses: presses.map((press) => ({ ...press, untilUs: press.atUs + HELD_US })),
});
