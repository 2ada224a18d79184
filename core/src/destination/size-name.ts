import * as z from 'zod';

/** Size of an exported picture: its shorter side in px, or that of the footage. */
export const pictureSizeSchema = z.enum(['720p', '1080p', 'as-recorded', 'finest']);
export type PictureSize = z.infer<typeof pictureSizeSchema>;
