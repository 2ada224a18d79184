import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { formatClock } from '../../time/us';
import { always, kindOf } from '../kind';
import { flubsSlice } from '../slices/flubs';

/** Takes a flub mark away. */
export const unmarkFlub = kindOf({
  schema: z.object({ do: z.literal('unmark-flub'), takeId: idSchema, atUs: usSchema }),
  slice: flubsSlice,
  apply: (before, { takeId, atUs }) =>
    before.filter((flub) => flub.takeId !== takeId || flub.atUs !== atUs),
  touches: ({ takeId, atUs }) => [{ slot: `flub ${takeId} ${atUs}`, value: false }],
  isUndoable: always,
  inWords: ({ atUs }) => `took the flub mark at ${formatClock(atUs)} away`,
});
