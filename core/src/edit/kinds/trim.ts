import * as z from 'zod';
import { trimSchema } from '../../lesson/placement';
import { always, kindOf } from '../kind';
import { trimsSlice } from '../slices/trims';
import { FORWARD } from './stretch-of-take';

/** Keeps only a part of what stands at a place; what lies outside can be had back by a wider trim. */
export const trim = kindOf({
  schema: z
    .object({ do: z.literal('trim'), ...trimSchema.unwrap().shape })
    .refine((edit) => edit.endUs === null || edit.endUs > edit.startUs, FORWARD),
  slice: trimsSlice,
  apply: (before, { placementId, startUs, endUs }) => [
    ...before.filter((other) => other.placementId !== placementId),
    { placementId, startUs, endUs },
  ],
  touches: ({ placementId, startUs, endUs }) => [
    { slot: `trim ${placementId}`, value: [startUs, endUs] },
  ],
  isUndoable: always,
  inWords: () => 'trimmed a take',
});
