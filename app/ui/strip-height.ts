/** Height of the wave that an end is dragged on, px. */
export const STRIP_HEIGHT = 56;
