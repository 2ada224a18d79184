/** How far captions stay from the frame's edge, fraction of its height. */
export const CAPTION_AWAY = 0.045;
/** How high a line of them is, in heights of its letters. */
export const CAPTION_LINE = 1.3;
