import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { TextOverlayLayer } from '@under-chalk/core/scene/layers/text-overlay';
import { roundedPath, type LayerPainter } from './layer-painter';
import { BAND, BAND_COVERS, LIGHT_WORDS, linesOf, TITLE_FONT } from './set-words';

/** More lines than this are not painted: what is longer belongs into captions. */
const MOST_LINES = 4;

/** Measures of a line of words in a frame, px. */
const measuresOf = ({ widthPx, heightPx }: SizePx) => {
  const fontPx = Math.round(Math.min(widthPx, heightPx) * 0.052);
  return { fontPx, lineHigh: fontPx * 1.3, pad: fontPx * 0.55, away: fontPx * 0.9 };
};

/** Words on a band, at the top or the bottom, as wide as they are. */
export const textOverlay: LayerPainter<TextOverlayLayer> = {
  version: 1,
  paint(context, { text, place }, { size }) {
    const { fontPx, lineHigh, pad, away } = measuresOf(size);
    context.save();
    context.font = `600 ${fontPx}px ${TITLE_FONT}, serif`;
    const lines = linesOf(context, text, size.widthPx * 0.8).slice(0, MOST_LINES);
    const widest = Math.max(...lines.map((words) => context.measureText(words).width));
    const high = lines.length * lineHigh + 2 * pad;
    const box = {
      x: size.widthPx / 2 - widest / 2 - 1.6 * pad,
      y: place === 'top' ? away : size.heightPx - away - high,
      width: widest + 3.2 * pad,
      height: high,
    };
    context.globalAlpha = BAND_COVERS;
    context.fillStyle = BAND;
    roundedPath(context, box, pad);
    context.fill();
    context.globalAlpha = 1;
    context.fillStyle = LIGHT_WORDS;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    lines.forEach((words, index) =>
      context.fillText(words, size.widthPx / 2, box.y + pad + (index + 0.5) * lineHigh),
    );
    context.restore();
  },
  bounds({ place }, { size }) {
    const { lineHigh, pad, away } = measuresOf(size);
    const high = Math.min(size.heightPx, MOST_LINES * lineHigh + 2 * pad + away + 2);
    const y = place === 'top' ? 0 : size.heightPx - high;
    return { x: 0, y, width: size.widthPx, height: high };
  },
};
