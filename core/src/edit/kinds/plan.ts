import * as z from 'zod';
import { planSchema } from '../../lesson/plan';
import { kindOf, never } from '../kind';
import { planSlice } from '../slices/plan';

/** Changes what a lesson is called, whom it is for and where it goes. */
export const plan = kindOf({
  schema: z.object({ do: z.literal('plan'), set: planSchema.unwrap().partial() }),
  slice: planSlice,
  apply(before, { set }) {
    const said = Object.entries(set).filter(([, value]) => value !== undefined);
    return { ...before, ...Object.fromEntries(said) };
  },
  touches: ({ set }) =>
    Object.entries(set)
      .filter(([, value]) => value !== undefined)
      .map(([field, value]) => ({ slot: `plan ${field}`, value })),
  isUndoable: never,
  inWords: () => 'changed the plan',
});
