/** Lines of text on a page stand this far apart, heights of a letter. */
export const LINE_HEIGHT = 1.35;
