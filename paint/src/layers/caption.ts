import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { CAPTION_AWAY, CAPTION_LINE } from '@under-chalk/core/scene/caption-measures';
import type { CaptionLayer } from '@under-chalk/core/scene/layers/caption';
import type { LayerPainter } from './layer-painter';
import { BAND, BAND_COVERS, LIGHT_WORDS, TITLE_FONT } from './set-words';

/** Measures of captions in a frame, px. Letters get smaller where a line would be wider than the frame. */
const measuresOf = ({ size, lines, place }: CaptionLayer, { widthPx, heightPx }: SizePx) => {
  const fontPx = Math.max(8, Math.round(Math.min(widthPx, heightPx) * size));
  const lineHigh = Math.round(fontPx * CAPTION_LINE);
  const pad = Math.round(fontPx * 0.4);
  const away = Math.round(heightPx * CAPTION_AWAY);
  const high = lines.length * lineHigh + pad;
  const y =
    place === 'top'
      ? away
      : place === 'middle'
        ? Math.round((heightPx - high) / 2)
        : heightPx - away - high;
  return { fontPx, lineHigh, pad, high, y };
};

/** Lines of what is said, each on a band as wide as it is, or with an edge round their letters. */
export const caption: LayerPainter<CaptionLayer> = {
  version: 1,
  paint(context, layer, { size }) {
    const { fontPx, lineHigh, pad, y } = measuresOf(layer, size);
    const font = (px: number) => `600 ${px}px ${TITLE_FONT}, sans-serif`;
    context.save();
    context.font = font(fontPx);
    const most = size.widthPx * 0.94 - 2 * pad;
    const widest = Math.max(...layer.lines.map((line) => context.measureText(line).width));
    if (widest > most) context.font = font(Math.max(6, Math.floor((fontPx * most) / widest)));
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    context.lineJoin = 'round';
    layer.lines.forEach((line, index) => {
      const top = y + index * lineHigh;
      const wide = context.measureText(line).width + 2 * pad;
      if (layer.ground === 'band') {
        context.globalAlpha = BAND_COVERS;
        context.fillStyle = BAND;
        context.fillRect((size.widthPx - wide) / 2, top, wide, lineHigh);
        context.globalAlpha = 1;
      } else {
        context.strokeStyle = BAND;
        context.lineWidth = Math.max(2, fontPx * 0.18);
        context.strokeText(line, size.widthPx / 2, top + lineHigh / 2);
      }
      context.fillStyle = LIGHT_WORDS;
      context.fillText(line, size.widthPx / 2, top + lineHigh / 2);
    });
    context.restore();
  },
  bounds(layer, { size }) {
    const { y, high } = measuresOf(layer, size);
    const top = Math.max(0, y - 4);
    return { x: 0, y: top, width: size.widthPx, height: Math.min(size.heightPx - top, high + 8) };
  },
};
