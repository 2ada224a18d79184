import type { WordsLayer } from '@under-chalk/core/scene/layers/words';
import { wholeFrame, type LayerPainter } from './layer-painter';
import { LIGHT_WORDS, linesOf, TITLE_FONT } from './set-words';

export const words: LayerPainter<WordsLayer> = {
  version: 1,
  paint(context, { text }, { size }) {
    const fontPx = Math.round(Math.min(size.widthPx, size.heightPx) * 0.085);
    context.font = `600 ${fontPx}px ${TITLE_FONT}, serif`;
    context.fillStyle = LIGHT_WORDS;
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
