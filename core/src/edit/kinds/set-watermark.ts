import * as z from 'zod';
import { watermarkSchema } from '../../lesson/watermark';
import { always, kindOf } from '../kind';
import { watermarkSlice } from '../slices/watermark';

/** Lays a watermark over the film; null: takes it off. */
export const setWatermark = kindOf({
  schema: z.object({ do: z.literal('set-watermark'), watermark: watermarkSchema.nullable() }),
  slice: watermarkSlice,
  apply: (_before, { watermark }) => watermark,
  touches: ({ watermark }) => [{ slot: 'watermark', value: watermark }],
  isUndoable: always,
  inWords: ({ watermark }) => (watermark ? 'changed the watermark' : 'took the watermark off'),
});
