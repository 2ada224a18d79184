import { escapedHtml } from '../text/html';

/** How wide a film is shown in another page at most, px. */
export const EMBED_WIDTH_PX = 1280;

/** Height of a film of some shape that is shown as wide as it may be, px. */
export const embedHeightPx = (aspect: number): number => Math.round(EMBED_WIDTH_PX / aspect);

/**
 * Code that shows a film in a page of another site: a frame that takes the width there is, with room for the player's bar.
 *
 * @param address where it is watched
 * @param aspect width by height of its picture
 */
export const embedCode = (address: string, title: string, aspect: number): string => {
  const style = `width:100%;max-width:${EMBED_WIDTH_PX}px;aspect-ratio:${EMBED_WIDTH_PX}/${embedHeightPx(aspect)};border:0`;
  return `<iframe src="${escapedHtml(address)}" title="${escapedHtml(title)}" style="${style}" allow="fullscreen; picture-in-picture" allowfullscreen></iframe>`;
};
