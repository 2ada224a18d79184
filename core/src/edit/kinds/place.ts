import * as z from 'zod';
import { placementSchema } from '../../lesson/placement';
import { kindOf } from '../kind';
import { placementsSlice } from '../slices/placements';

/** Gives a take a place in the film, or moves it to another. */
export const place = kindOf({
  schema: z.object({
    do: z.literal('place'),
    placement: placementSchema,
    /** Put there by the recorder as it came, and not by a press. */
    arrives: z.boolean(),
  }),
  slice: placementsSlice,
  apply: (before, { placement }) => [...before.filter(({ id }) => id !== placement.id), placement],
  touches: ({ placement: { id, takeId, rank } }) => [
    { slot: `place ${id}`, value: [takeId, rank] },
  ],
  // Where a take arrives nobody has moved it.
  isUndoable: ({ arrives }) => !arrives,
  inWords: ({ arrives }) => (arrives ? 'put a take into the film' : 'moved a take'),
});
