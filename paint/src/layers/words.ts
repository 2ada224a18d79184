import type { WordsLayer } from '@under-chalk/core/scene/layers/words';
import type { Context2D } from '../context';
import { wholeFrame, type LayerPainter } from './layer-painter';

/** The family that words are set in; whoever makes the canvas has it loaded under this name. */
export const TITLE_FONT = 'Bitter';

const COLOUR = '#f7f3e9';

/** Breaks words into lines no wider than `most` px in the context's font. */
const linesOf = <P>(context: Context2D<P>, text: string, most: number): string[] => {
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

export const words: LayerPainter<WordsLayer> = {
  version: 1,
  paint(context, { text }, { size }) {
    const fontPx = Math.round(Math.min(size.widthPx, size.heightPx) * 0.085);
    context.font = `600 ${fontPx}px ${TITLE_FONT}, serif`;
    context.fillStyle = COLOUR;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    const lines = linesOf(context, text, size.widthPx * 0.8);
    const lineHeight = fontPx * 1.3;
    lines.forEach((line, index) => {
      const y = size.heightPx / 2 + (index - (lines.length - 1) / 2) * lineHeight;
      context.fillText(line, size.widthPx / 2, y);
    });
  },
  bounds: (_layer, frame) => wholeFrame(frame),
};
