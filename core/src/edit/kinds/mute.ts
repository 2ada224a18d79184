import * as z from 'zod';
import { clear, join } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { mutedSlice } from '../slices/muted';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Has nothing heard of a stretch, while its picture goes on; or lets it be heard again. */
export const mute = kindOf({
  schema: z
    .object({ do: z.literal('mute'), ...ENDS, silent: z.boolean() })
    .refine(runsForward, FORWARD),
  slice: mutedSlice,
  apply: (before, { takeId, startUs, endUs, silent }) =>
    (silent ? join : clear)(before, { takeId, startUs, endUs }),
  touches: ({ takeId, startUs, endUs, silent }) => [
    { slot: `silence ${takeId}`, range: { startUs, endUs }, value: silent },
  ],
  isUndoable: always,
  inWords: (edit) => `${edit.silent ? 'muted' : 'let be heard'} ${STRETCH}`,
});
