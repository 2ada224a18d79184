import type { GroundLayer } from '@under-chalk/core/scene/layers/ground';
import { wholeFrame, type LayerPainter } from './layer-painter';

export const ground: LayerPainter<GroundLayer> = {
  version: 1,
  paint(context, { colour, downTo }, { size }) {
    if (downTo) {
      const gradient = context.createLinearGradient(0, 0, 0, size.heightPx);
      gradient.addColorStop(0, colour);
      gradient.addColorStop(1, downTo);
      context.fillStyle = gradient;
    } else context.fillStyle = colour;
    context.fillRect(0, 0, size.widthPx, size.heightPx);
  },
  bounds: (_layer, frame) => wholeFrame(frame),
};
