import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { FORWARD } from './stretch-of-take';

/** Keeps only this part of a take; what lies outside can be had back by a wider trim. */
export const trim = kindOf({
  schema: z
    .object({
      do: z.literal('trim'),
      takeId: idSchema,
      startUs: usSchema,
      endUs: usSchema.nullable(),
    })
    .refine((edit) => edit.endUs === null || edit.endUs > edit.startUs, FORWARD),
  slice: 'placed',
  apply: (before, { takeId, startUs, endUs }) =>
    before.map((placed) => (placed.takeId === takeId ? { ...placed, startUs, endUs } : placed)),
  touches: ({ takeId, startUs, endUs }) => [{ slot: `trim ${takeId}`, value: [startUs, endUs] }],
  isUndoable: always,
  inWords: () => 'trimmed a take',
});
