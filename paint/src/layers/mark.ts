import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { marginsOf } from '@under-chalk/core/scene/geometry';
import type { MarkLayer } from '@under-chalk/core/scene/layers/mark';
import type { Context2D } from '../context';
import { DARK_WORDS, LIGHT_WORDS, TITLE_FONT } from './set-words';
import { wholeFrame, type LayerPainter } from './layer-painter';

const fontPx = ({ size: high }: MarkLayer, { heightPx }: SizePx) =>
  Math.max(8, Math.round(high * heightPx * 0.75));

/** Where its middle lies, px from the left, and where the line of its letters does, px from the top. */
const measuresOf = <P>(context: Context2D<P>, layer: MarkLayer, size: SizePx) => {
  const { widthPx, heightPx } = size;
  const margins = marginsOf(widthPx / heightPx);
  const most = widthPx * (1 - 2 * margins.x);
  const asked = fontPx(layer, size);
  context.font = `600 ${asked}px ${TITLE_FONT}, serif`;
  const wide = context.measureText(layer.text).width;
  // Too long a line is set smaller, and not broken.
  const px = wide > most ? Math.max(6, Math.floor((asked * most) / wide)) : asked;
  context.font = `600 ${px}px ${TITLE_FONT}, serif`;
  const width = context.measureText(layer.text).width;
  const high = px / 0.75;
  return {
    px,
    x: margins.x * widthPx + layer.placeX * (most - width),
    y: margins.y * heightPx + layer.placeY * (heightPx * (1 - 2 * margins.y) - high) + high / 2,
  };
};

/** Light words with something dark round them, so that they can be read on whatever lies under them. */
export const mark: LayerPainter<MarkLayer> = {
  version: 1,
  paint(context, layer, { size }) {
    context.save();
    const { px, x, y } = measuresOf(context, layer, size);
    context.textAlign = 'left';
    context.textBaseline = 'middle';
    const edge = Math.max(1, px * 0.06);
    context.fillStyle = DARK_WORDS;
    context.globalAlpha = layer.opacity * 0.4;
    for (let part = 0; part < 8; part++) {
      const angle = (part * Math.PI) / 4;
      context.fillText(layer.text, x + edge * Math.cos(angle), y + edge * Math.sin(angle));
    }
    context.fillStyle = LIGHT_WORDS;
    context.globalAlpha = layer.opacity;
    context.fillText(layer.text, x, y);
    context.restore();
  },
  bounds(layer, frame) {
    const { widthPx, heightPx } = frame.size;
    const margins = marginsOf(widthPx / heightPx);
    const high = layer.size * heightPx;
    const y =
      margins.y * heightPx + layer.placeY * (heightPx * (1 - 2 * margins.y) - high) - high * 0.5;
    return { ...wholeFrame(frame), y, height: high * 2 };
  },
};
