import * as z from 'zod';

/** How surface and camera share the picture for a stretch. */
export const layoutKindSchema = z.enum(['surface', 'inset', 'side', 'camera']);
export type LayoutKind = z.infer<typeof layoutKindSchema>;

/** Display names. */
export const LAYOUT_NAMES: Readonly<Record<LayoutKind, string>> = {
  surface: 'surface only',
  inset: 'surface with inset',
  side: 'side by side',
  camera: 'camera only',
};

export const insetShapeSchema = z.enum(['rounded', 'circle', 'square-cornered']);
export type InsetShape = z.infer<typeof insetShapeSchema>;

const fraction = z.number().min(0).max(1);

/** What parts the inset from what lies under it; left out: a line. */
export const insetEdgeSchema = z.enum(['line', 'shadow', 'none']);
export type InsetEdge = z.infer<typeof insetEdgeSchema>;

/** The least and the most that an inset's height can be, of the frame's. */
export const LEAST_INSET = 0.12;
export const MOST_INSET = 0.6;

/**
 * Where the inset is. `placeX` and `placeY` divide the room that is free around it, so that 0 is
 * against the left or top margin and 1 against the right or bottom one at any size, and the inset
 * can't leave the picture. `size` is its height as a fraction of the frame's height.
 */
export const insetSchema = z
  .object({
    placeX: fraction,
    placeY: fraction,
    size: z.number().min(LEAST_INSET).max(MOST_INSET),
    shape: insetShapeSchema,
    edge: insetEdgeSchema.optional(),
  })
  .readonly();
export type Inset = z.infer<typeof insetSchema>;

export const layoutSchema = z.object({ kind: layoutKindSchema, inset: insetSchema }).readonly();
export type Layout = z.infer<typeof layoutSchema>;

/** What a take starts with: its surface, and the camera at the lower right. */
export const DEFAULT_LAYOUT: Layout = {
  kind: 'inset',
  inset: { placeX: 1, placeY: 1, size: 0.28, shape: 'rounded' },
};

/** The shape of the output picture, width to height. */
export const frameShapeSchema = z.enum(['16:9', '4:3', '1:1', '9:16']);
export type FrameShape = z.infer<typeof frameShapeSchema>;

/** Width over height. */
export const aspectOf = (shape: FrameShape): number =>
  ({ '16:9': 16 / 9, '4:3': 4 / 3, '1:1': 1, '9:16': 9 / 16 })[shape];
