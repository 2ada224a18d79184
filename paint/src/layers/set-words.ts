import type { Context2D } from '../context';

/** The family that words are set in; whoever makes the canvas has it loaded under this name. */
export const TITLE_FONT = 'Bitter';

/** Of words on something dark. */
export const LIGHT_WORDS = '#f7f3e9';

/** Of words on something light. */
export const DARK_WORDS = '#1c2429';

/** What words lie on, over a picture. */
export const BAND = '#11181d';
export const BAND_COVERS = 0.84;

/** Breaks words into lines no wider than `most` px in the context's font. */
export const linesOf = <P>(context: Context2D<P>, text: string, most: number): string[] => {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && context.measureText(longer).width <= most) {
      lines[lines.length - 1] = longer;
    } else {
      lines.push(word);
    }
  }
  return lines;
};
