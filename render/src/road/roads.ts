/**
 * How a chunk is made, and in which version; part of its key. `filters`: everything in it stands still, so ffmpeg
 * lays it together. `painter`: something moves or shines through, so it is painted frame by frame, or what of it is written on
 * (`written`).
 */
export const ROADS = { filters: 1, painter: 1 } as const;
export type Road = keyof typeof ROADS;
