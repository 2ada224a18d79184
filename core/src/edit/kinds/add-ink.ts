import * as z from 'zod';
import { addedStrokeSchema } from '../../ink/change';
import { idSchema } from '../../lesson/take';
import { compared } from '../../text/compared';
import { formatClock } from '../../time/us';
import { always, kindOf } from '../kind';
import { addedInkSlice } from '../slices/added-ink';

/** Writes on a take after it was recorded. */
export const addInk = kindOf({
  schema: z.object({ do: z.literal('add-ink'), takeId: idSchema, stroke: addedStrokeSchema }),
  slice: addedInkSlice,
  apply: (before, { takeId, stroke }) =>
    [
      ...before.filter((added) => added.takeId !== takeId || added.stroke.id !== stroke.id),
      { takeId, stroke },
    ].sort(
      (a, b) =>
        a.stroke.atUs - b.stroke.atUs ||
        compared(a.stroke.id, b.stroke.id) ||
        compared(a.takeId, b.takeId),
    ),
  touches: ({ takeId, stroke }) => [{ slot: `added ink ${takeId} ${stroke.id}`, value: stroke }],
  isUndoable: always,
  inWords: ({ stroke }) =>
    stroke.pen.tool === 'text'
      ? `wrote words at ${formatClock(stroke.atUs)}`
      : `wrote at ${formatClock(stroke.atUs)}`,
});
