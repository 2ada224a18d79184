import type { EdgeLayer } from '@under-chalk/core/scene/layers/edge';
import { boxPx, radiusPx, roundedPath, type LayerPainter } from './layer-painter';

const COLOUR = 'rgba(247, 243, 233, 0.92)';
/** Width of the line, as a fraction of the frame's shorter side. */
const WIDTH = 0.0045;

export const edge: LayerPainter<EdgeLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const { widthPx, heightPx } = frame.size;
    const box = boxPx(layer, frame);
    context.save();
    context.globalAlpha = layer.opacity;
    context.strokeStyle = COLOUR;
    context.lineWidth = WIDTH * Math.min(widthPx, heightPx);
    roundedPath(context, box, radiusPx(layer, box));
    context.stroke();
    context.restore();
  },
};
