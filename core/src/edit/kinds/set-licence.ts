import * as z from 'zod';
import { licenceSchema, toldLicence } from '../../lesson/licence';
import { always, kindOf } from '../kind';
import { licenceSlice } from '../slices/licence';

/** Says what others may do with the film; null: says nothing of it. */
export const setLicence = kindOf({
  schema: z.object({ do: z.literal('set-licence'), licence: licenceSchema.nullable() }),
  slice: licenceSlice,
  apply: (_before, { licence }) => licence,
  touches: ({ licence }) => [{ slot: 'licence', value: licence }],
  isUndoable: always,
  inWords: ({ licence }) =>
    licence ? `gave it the licence “${toldLicence(licence).line}”` : 'took the licence off',
});
