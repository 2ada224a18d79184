/** Shape of a page, width over height: what of it is seen as a whole. There is more room around it. */
export const PAGE_ASPECT = 16 / 9;

/** A page's size as a track of ink tells it: as large as a large screen, though ink is sharp at any. */
export const PAGE_PX = { widthPx: 1920, heightPx: 1080 } as const;

/** A place on a page: fractions of its width. */
export type XY = readonly [x: number, y: number];
