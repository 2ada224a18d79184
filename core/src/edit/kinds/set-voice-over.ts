import * as z from 'zod';
import { footageSchema } from '../../lesson/cutaway';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { voiceOversSlice } from '../slices/voice-overs';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Has another take's voice heard over a stretch, in place of its own; null: its own again. */
export const setVoiceOver = kindOf({
  schema: z
    .object({ do: z.literal('set-voice-over'), ...ENDS, by: footageSchema.nullable() })
    .refine(runsForward, FORWARD),
  slice: voiceOversSlice,
  apply: (before, { by, ...stretch }) => layOrClear(before, stretch, by && { by }),
  touches: ({ takeId, startUs, endUs, by }) => [
    { slot: `spoken over ${takeId}`, range: { startUs, endUs }, value: by },
  ],
  isUndoable: always,
  inWords: (edit) =>
    edit.by ? `spoke ${STRETCH} anew` : `let the voice be heard that was recorded with ${STRETCH}`,
});
