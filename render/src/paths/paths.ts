/**
 * How a chunk is made, and in which version; part of its key. `filters`: everything in it stands still, so ffmpeg
 * lays it together. `painter`: something moves or shines through, so frames are painted one by one, or that part of
 * them which is written on (`written`).
 */
export const RENDER_PATHS = { filters: 2, painter: 2 } as const;
export type RenderPath = keyof typeof RENDER_PATHS;
