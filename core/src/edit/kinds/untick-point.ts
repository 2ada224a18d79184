import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { ticksSlice } from '../slices/ticks';

/** Takes a tick back. */
export const untickPoint = kindOf({
  schema: z.object({ do: z.literal('untick-point'), pointId: idSchema }),
  slice: ticksSlice,
  apply: (before, { pointId }) => before.filter((tick) => tick.pointId !== pointId),
  touches: ({ pointId }) => [{ slot: `tick ${pointId}`, value: null }],
  isUndoable: never,
  inWords: () => 'took a tick back',
});
