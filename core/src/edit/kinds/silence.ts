import * as z from 'zod';
import { clear, join } from '../../time/timeline';
import { always, kindOf } from '../kind';
import { silencedSlice } from '../slices/silenced';
import { ENDS, FORWARD, runsForward, STRETCH } from './stretch-of-take';

/** Has nothing heard of a stretch, while its picture goes on; or lets it be heard again. */
export const silence = kindOf({
  schema: z
    .object({ do: z.literal('silence'), ...ENDS, silent: z.boolean() })
    .refine(runsForward, FORWARD),
  slice: silencedSlice,
  apply: (before, { takeId, startUs, endUs, silent }) =>
    (silent ? join : clear)(before, { takeId, startUs, endUs }),
  touches: ({ takeId, startUs, endUs, silent }) => [
    { slot: `silence ${takeId}`, range: { startUs, endUs }, value: silent },
  ],
  isUndoable: always,
  inWords: (edit) => `${edit.silent ? 'silenced' : 'let be heard'} ${STRETCH}`,
});
