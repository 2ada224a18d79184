import * as z from 'zod';
import { placementSchema, rankAt } from '../../lesson/placement';
import { idSchema } from '../../lesson/take';
import { kindOf } from '../kind';
import { placementsSlice } from '../slices/placements';
import { leftOutBefore, placeMeant, placesBefore } from './older-take';

/** As it was once: a take had one place, and a place was a number. */
const olderSchema = z.object({
  takeId: idSchema,
  at: z.number().int().min(0).nullable(),
});

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
  older(form, before) {
    const { data } = olderSchema.safeParse(form);
    if (form.do !== 'place-take' || !data) return null;
    const { takeId, at } = data;
    const places = placesBefore(before);
    const own = places.filter((placement) => placement.takeId === takeId).length;
    // Put in again, it stood there whole, whatever it had been trimmed to: that is another place.
    const again = own === 0 ? takeId : `again-${own}-${takeId}`.slice(0, 64);
    const id = placeMeant(takeId, before) ?? again;
    const leftOut = leftOutBefore(before);
    const others = places.filter((placement) => placement.id !== id && !leftOut.has(placement.id));
    return {
      do: 'place',
      placement: { id, takeId, rank: rankAt(others, at) },
      arrives: at === null,
    };
  },
});
