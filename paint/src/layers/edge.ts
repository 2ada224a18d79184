import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { EdgeLayer } from '@under-chalk/core/scene/layers/edge';
import { boxPx, radiusPx, roundedPath, type LayerPainter } from './layer-painter';

const COLOUR = 'rgba(247, 243, 233, 0.92)';
/** Width of the line, as a fraction of the frame's shorter side. */
const WIDTH = 0.0045;

const lineWidth = ({ widthPx, heightPx }: SizePx) => WIDTH * Math.min(widthPx, heightPx);

export const edge: LayerPainter<EdgeLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const box = boxPx(layer, frame);
    context.save();
    context.globalAlpha = layer.opacity;
    context.strokeStyle = COLOUR;
    context.lineWidth = lineWidth(frame.size);
    roundedPath(context, box, radiusPx(layer, box));
    context.stroke();
    context.restore();
  },
  bounds(layer, frame) {
    const { x, y, width, height } = boxPx(layer, frame);
    const out = lineWidth(frame.size);
    return { x: x - out, y: y - out, width: width + 2 * out, height: height + 2 * out };
  },
};
