import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { TitleCardLayer } from '@under-chalk/core/scene/layers/title-card';
import type { Context2D } from '../context';
import { roundedPath, wholeFrame, type LayerPainter } from './layer-painter';
import { BAND, BAND_COVERS, DARK_WORDS, LIGHT_WORDS, linesOf, TITLE_FONT } from './set-words';

/** More lines than this are not painted. */
const MOST_LINES = 5;
/** Width that words may take, of the frame's. */
const MOST_WIDE = 0.8;

const measuresOf = ({ widthPx, heightPx }: SizePx) => {
  const short = Math.min(widthPx, heightPx);
  return { headingPx: Math.round(short * 0.095), linePx: Math.round(short * 0.045) };
};

/** A line drawn by hand, so to speak: not quite straight, thicker in its middle. */
const chalkLine = <P>(
  context: Context2D<P>,
  x: number,
  y: number,
  width: number,
  thick: number,
) => {
  context.beginPath();
  context.moveTo(x, y + thick * 0.2);
  context.quadraticCurveTo(x + width * 0.45, y - thick * 1.1, x + width, y - thick * 0.1);
  context.quadraticCurveTo(x + width * 0.5, y + thick * 0.9, x, y + thick * 0.2);
  context.closePath();
  context.fill();
};

/** The words of a card: large, a line of chalk under them, and small ones. */
export const titleCard: LayerPainter<TitleCardLayer> = {
  version: 1,
  paint(context, { heading, line, on }, { size }) {
    const { widthPx, heightPx } = size;
    const { headingPx, linePx } = measuresOf(size);
    const most = widthPx * MOST_WIDE;
    const headingFont = `600 ${headingPx}px ${TITLE_FONT}, serif`;
    const lineFont = `600 ${linePx}px ${TITLE_FONT}, serif`;
    context.save();
    context.font = headingFont;
    const large = linesOf(context, heading, most).slice(0, MOST_LINES);
    const widest = Math.max(headingPx, ...large.map((text) => context.measureText(text).width));
    context.font = lineFont;
    const small = linesOf(context, line, most).slice(0, MOST_LINES);
    const [largeHigh, smallHigh, gap] = [headingPx * 1.22, linePx * 1.4, headingPx * 0.55];
    const high = large.length * largeHigh + (small.length > 0 ? gap + small.length * smallHigh : 0);
    const middle = widthPx / 2;
    let y = (heightPx - high) / 2;
    if (on === 'picture') {
      const pad = headingPx * 0.7;
      const wide = Math.min(widthPx, Math.max(widest, most * 0.6) + 2 * pad);
      context.globalAlpha = BAND_COVERS;
      context.fillStyle = BAND;
      const plate = { x: middle - wide / 2, y: y - pad, width: wide, height: high + 2 * pad };
      roundedPath(context, plate, headingPx * 0.3);
      context.fill();
      context.globalAlpha = 1;
    }
    context.fillStyle = on === 'light' ? DARK_WORDS : LIGHT_WORDS;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    context.font = headingFont;
    for (const text of large) {
      context.fillText(text, middle, y + largeHigh / 2);
      y += largeHigh;
    }
    if (small.length > 0) {
      const wide = Math.min(most, Math.max(headingPx * 2, widest * 0.5));
      chalkLine(context, middle - wide / 2, y + gap * 0.42, wide, Math.max(2, headingPx * 0.05));
      y += gap;
      context.font = lineFont;
      for (const text of small) {
        context.fillText(text, middle, y + smallHigh / 2);
        y += smallHigh;
      }
    }
    context.restore();
  },
  bounds: (_layer, frame) => wholeFrame(frame),
};
