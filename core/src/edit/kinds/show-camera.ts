import * as z from 'zod';
import { cameraLookSchema } from '../../lesson/camera-look';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { cameraLooksSlice } from '../slices/camera-looks';

/** Shows a part of a take's camera, or as in a mirror; null: as it was seen. */
export const showCamera = kindOf({
  schema: z.object({
    do: z.literal('show-camera'),
    takeId: idSchema,
    look: cameraLookSchema.nullable(),
  }),
  slice: cameraLooksSlice,
  apply(before, { takeId, look }) {
    const others = before.filter((one) => one.takeId !== takeId);
    return look ? [...others, { takeId, look }] : others;
  },
  touches: ({ takeId, look }) => [{ slot: `camera ${takeId}`, value: look }],
  isUndoable: always,
  inWords: ({ look }) => (look ? 'showed the camera differently' : 'showed the camera as it was'),
});
