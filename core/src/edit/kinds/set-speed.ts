import * as z from 'zod';
import { speedInWords, speedSchema } from '../../lesson/speed';
import { layOrClear } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { speedsSlice } from '../slices/speeds';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Has a stretch go by faster or slower; null: as it was recorded. */
export const setSpeed = kindOf({
  schema: z
    .object({ do: z.literal('set-speed'), ...ENDS, speed: speedSchema.nullable() })
    .refine(runsForward, FORWARD),
  slice: speedsSlice,
  apply: (before, { speed, ...stretch }) =>
    layOrClear(before, stretch, speed === null ? null : { speed }),
  touches: ({ takeId, startUs, endUs, speed }) => [
    { slot: `speed ${takeId}`, range: { startUs, endUs }, value: speed },
  ],
  isUndoable: always,
  inWords: (edit) =>
    edit.speed
      ? `made ${STRETCH} ${speedInWords(edit.speed)}`
      : `made ${STRETCH} as fast as it was recorded`,
});
