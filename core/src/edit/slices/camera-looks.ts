import * as z from 'zod';
import { cameraLookSchema } from '../../lesson/camera-look';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Which part of the camera's picture is shown, of takes that don't show it as it was seen. */
export const cameraLooksSlice = sliceOf(
  'cameraLooks',
  z.array(z.object({ takeId: idSchema, look: cameraLookSchema })).readonly(),
  [],
);
