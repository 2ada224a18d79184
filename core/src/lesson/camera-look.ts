import * as z from 'zod';

const fraction = z.number().min(0).max(1);

/** How near a camera's picture can be come to. */
export const MOST_NEAR = 4;

/** Which part of a camera's picture is shown, and whether as in a mirror. */
export const cameraLookSchema = z
  .object({
    /** What stands in the middle, in fractions of its picture: as near as the picture's edges allow. */
    x: fraction,
    y: fraction,
    /** How many times as near as all of it. */
    near: z.number().min(1).max(MOST_NEAR),
    mirrored: z.boolean(),
  })
  .readonly();
export type CameraLook = z.infer<typeof cameraLookSchema>;

/** As the camera saw it. */
export const PLAIN_CAMERA: CameraLook = { x: 0.5, y: 0.5, near: 1, mirrored: false };
