import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { leftOutSlice } from '../slices/left-out';
import { placeMeant } from './older-take';

/** Leaves out of the film what stands at a place. Its rank and its trim stay. */
export const leaveOut = kindOf({
  schema: z.object({ do: z.literal('leave-out'), placementId: idSchema }),
  slice: leftOutSlice,
  apply: (before, { placementId }) => [...before.filter((id) => id !== placementId), placementId],
  touches: ({ placementId }) => [{ slot: `in ${placementId}`, value: false }],
  isUndoable: always,
  inWords: () => 'left a take out',
  older: ({ do: name, takeId }, before) =>
    name === 'leave-out-take'
      ? { do: 'leave-out', placementId: placeMeant(takeId, before) ?? takeId }
      : null,
});
