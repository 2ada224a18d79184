import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { inMomentOrder, momentSchema } from '../../moment/moment';
import { formatClock } from '../../time/us';
import { always, kindOf } from '../kind';
import { momentsSlice } from '../slices/moments';

const NAMES = { question: 'a question', note: 'a note', link: 'a link', pause: 'a pause' } as const;

/** Asks or says something at a moment, anew or in place of what was there; null: takes it away. */
export const setMoment = kindOf({
  schema: z
    .object({ do: z.literal('set-moment'), id: idSchema, moment: momentSchema.nullable() })
    .refine(({ id, moment }) => moment === null || moment.id === id, 'of the same id'),
  slice: momentsSlice,
  apply: (before, { id, moment }) =>
    [...before.filter((one) => one.id !== id), ...(moment ? [moment] : [])].sort(inMomentOrder),
  touches: ({ id, moment }) => [{ slot: `moment ${id}`, value: moment }],
  isUndoable: always,
  inWords: ({ moment }) =>
    moment
      ? `put ${NAMES[moment.does.is]} at ${formatClock(moment.atUs)}`
      : 'took what was asked or said away',
});
